import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { sendNote } from "../posting/sendNote";
import { t } from "../texts/t";

/**
 * Mails the owner of an account that the way it signs in has changed, or that a recovery code was used: if it was somebody else, they
 * learn of it.
 *
 * @param what a whole sentence
 */
export async function tellOwner(
  tx: Queries,
  { url }: Context["settings"],
  who: { name: string; email: string },
  what: () => string,
): Promise<void> {
  await sendNote(tx, { name: who.name, address: who.email }, () => ({
    subject: t("twoStep.yourAmigoAccount"),
    text: [
      t("shared.hello", { name: who.name }),
      "",
      what(),
      "",
      t("twoStep.ifThatWasYouThere"),
      `${url}/account`,
    ].join("\r\n"),
  }));
  await notify(tx, "house");
}
