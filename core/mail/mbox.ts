const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const NEWLINE = 10;
const RETURN = 13;
const QUOTE = ">".charCodeAt(0);
const FROM = [..."From "].map((sign) => sign.charCodeAt(0));

/**
 * One message of a mailbox file: its separator line with the sender and the time in UTC, the message with single line
 * feeds, `From ` at the start of a line quoted, an empty line after it (RFC 4155, appendix A).
 */
export function mboxEntry(raw: Uint8Array, from: string, at: Date): Uint8Array {
  const two = (value: number): string => String(value).padStart(2, "0");
  const day = `${DAYS[at.getUTCDay()] ?? ""} ${MONTHS[at.getUTCMonth()] ?? ""} ${String(at.getUTCDate()).padStart(2, " ")} ${two(at.getUTCHours())}:${two(at.getUTCMinutes())}:${two(at.getUTCSeconds())} ${at.getUTCFullYear()}`;
  const sender = /^[\x21-\x7e]+$/.test(from) ? from : "MAILER-DAEMON";
  const head = new TextEncoder().encode(`From ${sender} ${day}\n`);
  const made = new Uint8Array(head.length + raw.length + countQuoted(raw) + 2);
  made.set(head);
  let to = head.length;
  for (let index = 0; index < raw.length; index++) {
    const octet = raw[index] ?? 0;
    if (octet === RETURN && raw[index + 1] === NEWLINE) continue;
    if ((index === 0 || raw[index - 1] === NEWLINE) && isFrom(raw, index)) made[to++] = QUOTE;
    made[to++] = octet;
  }
  if (made[to - 1] !== NEWLINE) made[to++] = NEWLINE;
  made[to++] = NEWLINE;
  return made.subarray(0, to);
}

/** Whether a line begins with any number of `>` and then `From `. */
function isFrom(raw: Uint8Array, at: number): boolean {
  let from = at;
  while (raw[from] === QUOTE) from++;
  return FROM.every((octet, index) => raw[from + index] === octet);
}

function countQuoted(raw: Uint8Array): number {
  let count = 0;
  for (let index = 0; index < raw.length; index++)
    if ((index === 0 || raw[index - 1] === NEWLINE) && isFrom(raw, index)) count++;
  return count;
}
