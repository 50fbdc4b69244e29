import { message, type Message } from "@amigo/language/message";
import type { Rules } from "../posting/rules/rule";
import { displayName, headerText, oneHeaderLine } from "./headerText";
import type { SplitMessage } from "./splitMessage";

/** What a copy of a post says about its list. */
export interface ListIdentity {
  /** The part before the @. */
  name: string;
  domain: string;
  title: string;
  rules: Pick<Rules, "writers" | "from" | "replies">;
}

export interface CopyEnvelope {
  /** Chooses the words of a message. */
  say: (message: Message) => string;
  /** The writer's name and address. */
  from: { name: string; address: string };
  /** The address by which one copy's recipient can leave, RFC 8058; undefined for the copy that all inside members share, who leave by mail or on their page. */
  leaveUrl: string | undefined;
  /** Whether members leave by themselves, so that one click is enough; else the page says whom to ask. */
  oneClick: boolean;
  /** A copy that only the leads get: an answer to it goes to the writer. */
  toLeads: boolean;
  /** Whether it comes from the list itself, whatever its rules have. */
  asList?: boolean;
  /** Where the post stands in the archive (RFC 5064); undefined where none is kept. */
  archivedAt?: string | undefined;
}

/** Fields of the original that go on to the members as they are. Everything else stays behind. */
const KEPT = new Set([
  "subject",
  "date",
  "message-id",
  "in-reply-to",
  "references",
  "mime-version",
  "keywords",
  "comments",
  "importance",
  "auto-submitted",
  "organization",
  "arc-seal",
  "arc-message-signature",
  "arc-authentication-results",
]);

/**
 * The header of one copy of a post, for one recipient: the list in To, the writer by way of the list or the list itself
 * in From, replies as the rules of the list have them, the list fields of RFC 2369 and RFC 2919, and the original's own
 * subject, date, ids and content fields. Traces of other recipients (To, Cc, Bcc) never go on.
 *
 * @param content the content fields in place of the original's, where a footer was added to it
 * @returns the whole header with its closing empty line, octets as Latin-1
 */
export function copyHeader(
  original: SplitMessage,
  list: ListIdentity,
  envelope: CopyEnvelope,
  content?: readonly string[],
): string {
  const { name, domain, title, rules } = list;
  const address = `${name}@${domain}`;
  const writer = oneHeaderLine(envelope.from.name) || envelope.from.address;
  const membersWrite = rules.writers === "members" || rules.writers === "inside";
  const made = [
    `From: ${displayName((rules.from === "list" || envelope.asList === true) && !envelope.toLeads ? title : envelope.say(message("mail.writerVia", { writer, title })))} <${address}>`,
    `Reply-To: ${replyTo(list, envelope, writer)}`,
    `To: ${displayName(title)} <${address}>`,
    `List-Id: ${displayName(title)} <${name}.${domain}>`,
    membersWrite
      ? `List-Post: <mailto:${address}>`
      : "List-Post: NO (only leads and helpers write to this list)",
    `List-Help: <mailto:${name}-request@${domain}>`,
    `List-Owner: <mailto:${name}+leads@${domain}>`,
    ...(envelope.archivedAt === undefined ? [] : [`Archived-At: <${envelope.archivedAt}>`]),
    ...(envelope.toLeads ? [] : leaveFields(list, envelope)),
    "Precedence: list",
  ];
  const kept = original.fields.filter((field) => KEPT.has(field.name)).map(({ raw }) => raw);
  const described =
    content ??
    original.fields.filter((field) => field.name.startsWith("content-")).map(({ raw }) => raw);
  if (content !== undefined && !original.fields.some((field) => field.name === "mime-version"))
    kept.push("MIME-Version: 1.0");
  if (!original.fields.some((field) => field.name === "subject"))
    kept.push(`Subject: ${headerText(envelope.say(message("mail.noSubject")))}`);
  return `${[...made, ...kept, ...described].join("\r\n")}\r\n\r\n`;
}

/** How one leaves (RFC 2369, section 3.2): by the copy's own link, with one click where that is enough, and by mail. */
function leaveFields(
  { name, domain }: ListIdentity,
  { leaveUrl, oneClick }: CopyEnvelope,
): string[] {
  const ways = [
    ...(leaveUrl === undefined ? [] : [`<${leaveUrl}>`]),
    ...(oneClick ? [`<mailto:${name}+leave@${domain}>`] : []),
  ];
  return [
    ...(ways.length === 0 ? [] : [`List-Unsubscribe: ${ways.join(", ")}`]),
    ...(oneClick && leaveUrl !== undefined
      ? ["List-Unsubscribe-Post: List-Unsubscribe=One-Click"]
      : []),
  ];
}

/** Where an answer goes: the writer, the leads (a subaddress of the list, RFC 5233), or the list, which for a one-way list tells that it is one. */
function replyTo(
  { name, domain, title, rules }: ListIdentity,
  { from, toLeads, asList = false, say }: CopyEnvelope,
  writer: string,
): string {
  if (toLeads || (rules.replies === "writer" && !asList))
    return `${displayName(writer)} <${oneHeaderLine(from.address)}>`;
  if (rules.replies === "leads" || rules.replies === "writer")
    return `${displayName(say(message("mail.leadsOf", { title })))} <${name}+leads@${domain}>`;
  return `${displayName(title)} <${name}@${domain}>`;
}
