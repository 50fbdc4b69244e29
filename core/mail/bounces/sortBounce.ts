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
import { foldedWords } from "./plainWords";

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

/** How notices say that mail is late and is tried again, folded. */
const LATE =
  /delay|warning|still (being )?(try|tried|queued)|(continue|keep)s? (to try|trying)|will (be |still )?(re)?(try|tried|attempted)|not yet|temporary problem|verzogert|noch nicht|weiter versucht|retard|differe|pas encore|(todavia|aun) no|ritard|ancora|atrasad|ainda nao|vertrag|nog niet|opozni|jeszcze|gecik|henuz|задерж|пока не|еще не|затрим|ще не|zpozden|dosud|fordroj|annu (inte|ej)|forsink|endnu|enna|viela|まだ|遅延|尚未|延迟|延遲|아직|지연|تاخر|תיכף/u;
/** How mails say that they have come back for good, folded. */
const ENDED =
  /giv(ing|en) up|not going to try|(won't|will not) be (re)?(tried|attempted)|permanent(ly)? (error|fail|fatal|undeliver)|undeliverable|(could ?n[o']t|could not|ca ?n[o']t|cannot) be delivered(?! (yet|within))|returned to sender|endgultig|unzustellbar/;

/** Without fields for machines, the words alone tell a notice that mail is late from its end. */
function endedOrLate(read: BounceRead, { subject, text }: ReturnedMail): BounceRead {
  const words = foldedWords(`${subject}\n${humanLines(text).slice(0, 12).join("\n")}`);
  return LATE.test(words) && !ENDED.test(words)
    ? { ...read, sort: "not a bounce" }
    : { ...read, gaveUp: true };
}
