import type { BounceForm } from "../form";
import { sortOf } from "../sortOf";
import { refusalIn } from "../refusalIn";

/** Free words that quote the other server: a line with its reply code or an enhanced status. */
export const serverSaid: BounceForm = {
  id: "a reply quoted",
  read: ({ text, subject, returnPath }) => {
    const line =
      /^.*(?:\b[45]\d\d[ -]#?[45]\.\d{1,3}\.\d{1,3}|#[45]\.\d{1,3}\.\d{1,3}|\b(?:error|code|status|said|reply|response)\b.{0,40}\b[45]\d\d\b|^[ \t]*[45]\d\d[ -]\S).*$/im.exec(
        text.slice(0, 20_000),
      )?.[0];
    if (line === undefined || !(returnPath === "" || LOOKS_RETURNED.test(subject)))
      return undefined;
    const refused = refusalIn(text.slice(text.indexOf(line)));
    return { sort: sortOf(refused), words: refused.words };
  },
};

export const LOOKS_RETURNED =
  /undeliver|not delivered|returned (mail|to sender)|delivery (status|failure|failed|notification|problem|has failed)|mail (delivery|system error)|failure notice|unzustellbar|nicht zugestellt|non remis|échec|no entregado|mancato recapito/i;
