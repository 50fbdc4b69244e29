import { message, type Message } from "@amigo/language/message";
import { fieldValue, type SplitMessage } from "./splitMessage";

/**
 * Why a message must never reach a list nor be answered, or undefined: an empty return path or an
 * automatic mail (RFC 3834, section 2), a mail of another list, or a trace of this very list (a loop).
 *
 * @param returnPath the envelope's sender, empty for delivery reports
 * @param ownDomain  the list domain
 */
export function robotReason(
  mail: SplitMessage,
  returnPath: string,
  ownDomain: string,
): Message | undefined {
  if (returnPath === "") return message("mail.itIsADeliveryReport");
  const automatic = fieldValue(mail, "auto-submitted");
  if (automatic !== undefined && !/^no\b/i.test(automatic))
    return message("mail.itWasSentAutomaticallyNot");
  const listId = fieldValue(mail, "list-id");
  if (listId?.toLowerCase().includes(ownDomain.toLowerCase()) === true)
    return message("mail.itAlreadyWentThroughA");
  if (/^(bulk|junk|list|auto_reply)$/i.test(fieldValue(mail, "precedence") ?? ""))
    return message("mail.itIsBulkMail");
  if (mail.fields.some(({ name }) => name === "x-autoreply" || name === "x-autorespond"))
    return message("mail.itIsAnAutomaticAnswer");
  return undefined;
}
