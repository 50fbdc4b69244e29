/** How a mail came to a mail server. */
export interface Hop {
  /** What the sending server called itself, as it said it. */
  helo: string;
  /** Its network address. */
  ip: string;
  /** The server that took the mail. */
  by: string;
  /** The protocol, as registered for this field: RFC 3848. */
  protocol: string;
  /** The cipher, as for `(version=TLSv1.3 cipher=…)`; empty for none. */
  tls: string;
  id: string;
  /** To whom it came; named only where there is just one, so that nobody learns of another. */
  recipients: readonly string[];
  at: Date;
}

const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];
const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** Returns the trace field that a mail server puts before a mail it takes (RFC 5321, section 4.4), with its line breaks. */
export function receivedField({ helo, ip, by, protocol, tls, id, recipients, at }: Hop): string {
  const said = helo.replace(/[^A-Za-z0-9.:[\]_-]/g, "").slice(0, 255) || "unknown";
  const literal = ip.includes(":") ? `IPv6:${ip}` : ip;
  const [only] = recipients;
  const to =
    recipients.length === 1 && only !== undefined && /^[\x21-\x7e]{1,254}$/.test(only)
      ? `\r\n\tfor <${only.replace(/[<>()\\"]/g, "")}>`
      : "";
  return [
    `Received: from ${said} ([${literal.replace(/[^A-Za-z0-9.:]/g, "")}])`,
    `\tby ${by} with ${protocol} id ${id}`,
    ...(tls === "" ? [] : [`\t(${tls.replace(/[^\w.=+ -]/g, "")})`]),
  ]
    .join("\r\n")
    .concat(to, `;\r\n\t${mailDate(at)}\r\n`);
}

/** Returns a moment as mail writes it, in UTC: RFC 5322, section 3.3. */
export function mailDate(at: Date): string {
  const two = (number: number): string => String(number).padStart(2, "0");
  return `${DAYS[at.getUTCDay()] ?? ""}, ${at.getUTCDate()} ${MONTHS[at.getUTCMonth()] ?? ""} ${at.getUTCFullYear()} ${two(at.getUTCHours())}:${two(at.getUTCMinutes())}:${two(at.getUTCSeconds())} +0000`;
}
