import type { BounceForm } from "../form";
import { sortReason } from "../humanPart";
import { looksReturned } from "../looksReturned";

/** Free words that quote the other server: a line with its reply code or an enhanced status. */
export const serverSaid: BounceForm = {
  id: "a reply quoted",
  read: (mail) => {
    const line =
      /^.*(?:\b[45]\d\d[ -]#?[45]\.\d{1,3}\.\d{1,3}|#[45]\.\d{1,3}\.\d{1,3}|\b(?:error|code|status|said|reply|response)\b.{0,40}\b[45]\d\d\b|^[ \t]*[45]\d\d[ -]\S|[:：][ \t]*[45]\d\d[ -]\S).*$/im.exec(
        mail.text.slice(0, 20_000),
      )?.[0];
    return line === undefined || !looksReturned(mail)
      ? undefined
      : sortReason(mail.text.slice(mail.text.indexOf(line)), mail.text);
  },
};
