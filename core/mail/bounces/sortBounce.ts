import type { BounceForm, BounceRead, ReturnedMail } from "./form";
import { addressThenReason } from "./forms/addressThenReason";
import { automaticAnswer } from "./forms/automaticAnswer";
import { challenge } from "./forms/challenge";
import { deliveryStatus } from "./forms/deliveryStatus";
import { failedRecipients } from "./forms/failedRecipients";
import { labelledLines } from "./forms/labelledLines";
import { serverSaid } from "./forms/serverSaid";
import { transcript } from "./forms/transcript";
import { wordsAlone } from "./forms/wordsAlone";

/** Every form that is known, in the order in which they are tried: what is no bounce first, then the surest. */
export const BOUNCE_FORMS: readonly BounceForm[] = [
  deliveryStatus,
  automaticAnswer,
  challenge,
  failedRecipients,
  transcript,
  addressThenReason,
  labelledLines,
  serverSaid,
  wordsAlone,
];

/** Sorts a mail that came to the return path of a copy. What is of no known form is no bounce: nobody is taken off for it. */
export function sortBounce(mail: ReturnedMail): BounceRead & { form: string } {
  for (const form of BOUNCE_FORMS) {
    const read = form.read(mail);
    if (read !== undefined)
      return {
        ...read,
        words: read.words.replace(/\s+/g, " ").trim().slice(0, 300),
        form: form.id,
      };
  }
  return { sort: "not a bounce", words: mail.subject.slice(0, 300), form: "unknown" };
}
