import { message, type Message } from "@amigo/language/message";
import { displayName, oneHeaderLine } from "./headerText";
import type { SplitMessage } from "./splitMessage";

/** Fields that a copy has of its own, or that tell how the original came or of others who get it in secret. */
const LEFT_BEHIND = new Set([
  ...["from", "sender", "reply-to", "return-path", "received", "bcc", "resent-bcc", "errors-to"],
  ...["dkim-signature", "authentication-results", "arc-seal", "arc-message-signature"],
  ...["arc-authentication-results", "x-originating-ip"],
]);

/**
 * The header of a copy to somebody who gets a mail by themselves, not by a list: from the house's own mail domain by way of the
 * house, so that it can be signed and proven (RFC 7489, section 3.1), with answers to the writer.
 *
 * @param via  the house's name and the address that stands in From
 * @param say  chooses the words of a message
 * @returns the whole header with its closing empty line, octets as Latin-1
 */
export function personalHeader(
  original: SplitMessage,
  from: { name: string; address: string },
  via: { name: string; address: string },
  say: (message: Message) => string,
): string {
  const writer = oneHeaderLine(from.name) || from.address;
  const shown = say(message("mail.writerVia", { writer, title: via.name }));
  return `${[
    `From: ${displayName(shown)} <${via.address}>`,
    `Reply-To: ${displayName(writer)} <${oneHeaderLine(from.address)}>`,
    ...original.fields.filter(({ name }) => !LEFT_BEHIND.has(name)).map(({ raw }) => raw),
  ].join("\r\n")}\r\n\r\n`;
}
