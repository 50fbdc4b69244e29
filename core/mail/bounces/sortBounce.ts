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
import { humanLines } from "./humanPart";

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
        ...(form === deliveryStatus || read.sort !== "temporary" ? read : endedOrLate(read, mail)),
        words: read.words.replace(/\s+/g, " ").trim().slice(0, 300),
        form: form.id,
      };
  }
  return { sort: "not a bounce", words: mail.subject.slice(0, 300), form: "unknown" };
}

/** How notices say that mail is late and is tried again, and how mails say that it has come back for good. */
const LATE =
  /delay|warning|still (being )?(try|tried|queued)|(continue|keep)s? (to try|trying)|will be (tried|retried|attempted)|not yet been|has not been delivered yet|verzögert|weiter versucht|retard|retrasad|opóźni|gecik|задерж|затрим/i;
const ENDED =
  /giv(ing|en) up|not going to try|(won't|will not) be (tried|retried)|permanent|undeliver|could ?n[o']t be delivered|could not be delivered|returned to sender|endgültig|unzustellbar/i;

/** Without fields for machines, the words alone tell a notice that mail is late from its end. */
function endedOrLate(read: BounceRead, { subject, text }: ReturnedMail): BounceRead {
  const words = `${subject}\n${humanLines(text).slice(0, 12).join("\n")}`;
  return LATE.test(words) && !ENDED.test(words)
    ? { ...read, sort: "not a bounce" }
    : { ...read, gaveUp: true };
}
