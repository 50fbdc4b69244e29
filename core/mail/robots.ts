import { message, type Message } from "@amigo/language/message";
import { isAutomaticSubject } from "./automaticSubject";
import { fieldValue, type SplitMessage } from "./splitMessage";

/** Fields that only automatic answers have. */
const ANSWERING = [
  "x-autoreply",
  "x-autorespond",
  "x-autoresponder",
  "x-mail-autoreply",
  "x-autoreply-from",
];

/**
 * Why a message must never reach a list nor be answered, or undefined: an empty return path or an
 * automatic mail (RFC 3834, section 2; RFC 5436, section 2.7.1), a report (RFC 3464, RFC 5965, RFC 8098) whoever sends it,
 * an out-of-office note, a mail of another list, or a trace of this very list (a loop).
 *
 * @param returnPath the envelope's sender, empty for delivery reports
 * @param ownDomain  the list domain
 * @param subject    the subject, decoded
 */
export function robotReason(
  mail: SplitMessage,
  returnPath: string,
  ownDomain: string,
  subject: string,
): Message | undefined {
  if (returnPath === "") return message("mail.itIsADeliveryReport");
  const automatic = fieldValue(mail, "auto-submitted");
  if (automatic !== undefined && !/^no\b/i.test(automatic))
    return message("mail.itWasSentAutomaticallyNot");
  const listId = fieldValue(mail, "list-id");
  if (listId?.toLowerCase().includes(ownDomain.toLowerCase()) === true)
    return message("mail.itAlreadyWentThroughA");
  const kind = fieldValue(mail, "content-type")?.toLowerCase() ?? "";
  if (
    /^(multipart\/report|message\/(global-)?(delivery-status|disposition-notification)|message\/feedback-report)/.test(
      kind,
    )
  )
    return /disposition-notification/.test(kind)
      ? message("mail.itIsAReadReceipt")
      : message("mail.itIsAReport");
  if (/^(bulk|junk|list|auto_reply)\b/i.test(fieldValue(mail, "precedence") ?? ""))
    return message("mail.itIsBulkMail");
  const suppressed = fieldValue(mail, "x-auto-response-suppress");
  if (
    mail.fields.some(({ name }) => ANSWERING.includes(name)) ||
    (suppressed !== undefined && !/^(none)?$/i.test(suppressed)) ||
    isAutomaticSubject(subject, isAnswer(mail))
  )
    return message("mail.itIsAnAutomaticAnswer");
  return undefined;
}

function isAnswer({ fields }: SplitMessage): boolean {
  return fields.some(({ name }) => name === "in-reply-to" || name === "references");
}
