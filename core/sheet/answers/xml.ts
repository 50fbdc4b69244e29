/** Attributes of a tag, whatever signs their values hold. */
export const ATTRIBUTES = `(?:\\s+[\\w:.-]+\\s*=\\s*(?:"[^"]*"|'[^']*'))*`;

/** The value of an attribute; undefined where it is not there. */
export function attribute(attributes: string, name: string): string | undefined {
  const found = new RegExp(`\\s${name}\\s*=\\s*(?:"([^"]*)"|'([^']*)')`).exec(attributes);
  const value = found?.[1] ?? found?.[2];
  return value === undefined ? undefined : fromXml(value);
}

/** Text as it stands in XML, without the signs that may not (XML 1.0, section 2.2). */
export function toXml(text: string): string {
  return [...text]
    .filter((sign) => /[\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/u.test(sign))
    .join("")
    .replace(/&/g, "&amp;")
    .replace(/</g, "&lt;")
    .replace(/>/g, "&gt;")
    .replace(/"/g, "&quot;");
}

function fromXml(text: string): string {
  const named: Record<string, string> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };
  return text.replace(
    /&(?:#x([0-9a-f]+)|#(\d+)|(\w+));/gi,
    (whole, hex: string | undefined, decimal: string | undefined, name: string | undefined) => {
      if (name !== undefined) return named[name] ?? whole;
      const code = hex !== undefined ? parseInt(hex, 16) : Number(decimal);
      return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
    },
  );
}
