import { canonicalAddress } from "@amigo/core/address/domainName";
import type { MailResult } from "@amigo/core/mail/mailResults";
import type { MailRead } from "../sandbox/readMail";
import type { IncomingMail, MailPart } from "./incomingMail";

/** Returns an address of a list without the secret in it, as the log and trace fields may show it. */
export function withoutSecret(address: string): string {
  return address.replace(/\+(b|yes|date)\.[a-z0-9]+@/i, "+$1@");
}

/** Returns what a mail was for one address, where there is nothing else to tell. */
export function partOf(recipient: string, result: MailResult): MailPart {
  return { recipient: withoutSecret(recipient), result, reasons: [], listId: null, postId: null };
}

/** Returns what the mail log keeps of a mail that came in, but for what proves it and what was answered. */
export function loggedMail(
  { id, raw, returnPath, account, connection }: IncomingMail,
  { from, about }: Pick<MailRead, "from" | "about">,
  messageId: string,
) {
  return {
    id,
    fromAddress: account?.email ?? (from.address || canonicalAddress(returnPath).slice(0, 254)),
    fromName: from.name,
    returnPath: withoutSecret(canonicalAddress(returnPath)),
    subject: about.subject,
    messageId,
    size: raw.length,
    network: connection.ip,
    helo: connection.helo.slice(0, 255),
    secure: connection.tls !== "",
    accountId: account?.id ?? null,
  };
}
