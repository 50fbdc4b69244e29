import { fieldValue, type SplitMessage } from "./splitMessage";

/**
 * Why a message must never reach a list nor be answered, or undefined: an empty return path or an
 * automatic mail (RFC 3834, section 2), a mail of another list, or a trace of this very list (a loop).
 *
 * @param returnPath the envelope's sender, empty for delivery reports
 * @param ownDomain  the list domain
 */
export function robotReason(
  message: SplitMessage,
  returnPath: string,
  ownDomain: string,
): string | undefined {
  if (returnPath === "") return "it is a delivery report: its return path is empty";
  const automatic = fieldValue(message, "auto-submitted");
  if (automatic !== undefined && !/^no\b/i.test(automatic))
    return "it was sent automatically, not by a person";
  const listId = fieldValue(message, "list-id");
  if (listId?.toLowerCase().includes(ownDomain.toLowerCase()) === true)
    return "it already went through a list of this house";
  if (/^(bulk|junk|list|auto_reply)$/i.test(fieldValue(message, "precedence") ?? ""))
    return "it is bulk mail";
  if (message.fields.some(({ name }) => name === "x-autoreply" || name === "x-autorespond"))
    return "it is an automatic answer";
  return undefined;
}
