/** A header field as it stands in a message: its name and its whole raw text without the last line break. */
export interface RawField {
  name: string;
  raw: string;
}

/** A message taken apart without reading its body: RFC 5322, section 2.1. */
export interface SplitMessage {
  fields: RawField[];
  /** Where the body starts, in octets from the start of the message. */
  bodyAt: number;
}

/** Splits the header of a message from its body. Fields keep their folding; octets are read as Latin-1 so that none is lost. */
export function splitMessage(message: Uint8Array): SplitMessage {
  const bodyAt = endOfHeader(message);
  let text = "";
  for (let at = 0; at < bodyAt; at += 8192)
    text += String.fromCharCode(...message.subarray(at, Math.min(at + 8192, bodyAt)));
  const fields: RawField[] = [];
  for (const line of text.split(/\r?\n/)) {
    if (line === "") continue;
    const last = fields[fields.length - 1];
    if (/^[ \t]/.test(line) && last !== undefined) last.raw += `\r\n${line}`;
    else {
      const colon = line.indexOf(":");
      if (colon > 0) fields.push({ name: line.slice(0, colon).trim().toLowerCase(), raw: line });
    }
  }
  return { fields, bodyAt };
}

/** The value of the first field of that name, unfolded, or undefined. */
export function fieldValue(message: SplitMessage, name: string): string | undefined {
  const field = message.fields.find((candidate) => candidate.name === name);
  return field === undefined
    ? undefined
    : field.raw
        .slice(field.raw.indexOf(":") + 1)
        .replace(/\r\n[ \t]/g, " ")
        .trim();
}

/** Returns where the body of a message starts, in octets from its start; its length if it has none. */
export function endOfHeader(message: Uint8Array): number {
  for (let at = 0; at < message.length; at++) {
    if (message[at] !== 10) continue;
    if (message[at + 1] === 10) return at + 2;
    if (message[at + 1] === 13 && message[at + 2] === 10) return at + 3;
  }
  return message.length;
}
