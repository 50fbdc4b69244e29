import { displayName, headerText, oneHeaderLine } from "./headerText";
import type { SplitMessage } from "./splitMessage";

/** What a copy of a post says about its list. */
export interface ListIdentity {
  /** The part before the @. */
  name: string;
  domain: string;
  title: string;
  /** Whether members may write; where not, `List-Post` is `NO` (RFC 2369, section 3.4). */
  open: boolean;
}

export interface CopyEnvelope {
  /** The writer's name and address. */
  from: { name: string; address: string };
  /** The address by which one copy's recipient can leave: RFC 8058. */
  leaveUrl: string;
  /** Whether one click there is enough; where members leave through a lead, the page says whom to ask. */
  oneClick: boolean;
}

/** Fields of the original that go on to the members as they are. Everything else stays behind. */
const KEPT = new Set(["subject", "date", "message-id", "in-reply-to", "references", "mime-version", "content-language", "keywords", "comments", "importance", "auto-submitted", "organization"]);

/**
 * The header of one copy of a post, for one recipient: the list in To, the writer by way of the list
 * in From, the list fields of RFC 2369 and RFC 2919, and the original's own subject, date, ids and
 * content fields. Traces of other recipients (To, Cc, Bcc) never go on.
 *
 * @returns the whole header with its closing empty line, octets as Latin-1
 */
export function copyHeader(original: SplitMessage, list: ListIdentity, envelope: CopyEnvelope): string {
  const address = `${list.name}@${list.domain}`;
  const writer = oneHeaderLine(envelope.from.name) || envelope.from.address;
  const made = [
    `From: ${displayName(`${writer} via ${list.title}`)} <${address}>`,
    `Reply-To: ${displayName(writer)} <${oneHeaderLine(envelope.from.address)}>`,
    `To: ${displayName(list.title)} <${address}>`,
    `List-Id: ${displayName(list.title)} <${list.name}.${list.domain}>`,
    list.open ? `List-Post: <mailto:${address}>` : "List-Post: NO (only leads and helpers write to this list)",
    `List-Unsubscribe: <${envelope.leaveUrl}>`,
    ...(envelope.oneClick ? ["List-Unsubscribe-Post: List-Unsubscribe=One-Click"] : []),
    "Precedence: list",
  ];
  const kept = original.fields.filter(({ name }) => KEPT.has(name) || name.startsWith("content-")).map(({ raw }) => raw);
  if (!original.fields.some(({ name }) => name === "subject")) kept.push(`Subject: ${headerText("(no subject)")}`);
  return `${[...made, ...kept].join("\r\n")}\r\n\r\n`;
}
