import { fieldValue, type SplitMessage } from "./splitMessage";

const ID = /<[^<>\s]{1,500}>/g;
const MOST = 100;

/** The message ids that a message answers, the nearest first: In-Reply-To, then References from its end (RFC 5322, section 3.6.4). */
export function answeredIds(message: SplitMessage): string[] {
  const ids = (name: string): string[] => (fieldValue(message, name) ?? "").match(ID) ?? [];
  return [...new Set([...ids("in-reply-to"), ...ids("references").reverse()])].slice(0, MOST);
}

const PREFIX =
  /^\s*(?:(?:re|aw|antw|sv|vs|ref|rif|res|odp|fwd?|wg|tr|rv|enc|doorst)(?:\s*\[\d+\])?(?:\s*\(\d+\))?\s*[:：]\s*|\[[^\]]{1,40}\]\s*(?=\S))/i;

/** A subject without the signs of an answer before it, folded for comparison: RFC 5256, section 2.1, a little wider. */
export function baseSubject(subject: string): string {
  let rest = subject;
  for (let next = rest.replace(PREFIX, ""); next !== rest; next = rest.replace(PREFIX, ""))
    rest = next;
  const bare = rest.replace(/\s+/g, " ").trim().toLowerCase();
  return bare.endsWith("(fwd)") ? bare.slice(0, -"(fwd)".length).trim() : bare;
}

/** Whether a subject says that it is an answer or passed on. */
export function isAnswer(subject: string): boolean {
  return /^\s*(?:re|aw|antw|sv|vs|ref|rif|res|odp)(?:\s*\[\d+\])?(?:\s*\(\d+\))?\s*[:：]/i.test(
    subject,
  );
}
