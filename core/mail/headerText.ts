/**
 * Text for one header field: nothing that could end the line, no control characters, runs of
 * space a single one. What is not ASCII becomes encoded words (RFC 2047, section 2).
 */
export function headerText(text: string): string {
  const line = oneHeaderLine(text);
  if (/^[\x20-\x7e]*$/.test(line)) return line;
  return encodedWords(line).join("\r\n ");
}

/** A display name before an address: an atom run as it is, else quoted (RFC 5322, section 3.2.4), else encoded. */
export function displayName(text: string): string {
  const line = oneHeaderLine(text);
  if (/^[A-Za-z0-9!#$%&'*+/=?^_`{|}~ -]*$/.test(line)) return line;
  if (/^[\x20-\x7e]*$/.test(line)) return `"${line.replace(/(["\\])/g, "\\$1")}"`;
  return encodedWords(line).join("\r\n ");
}

/** A text without anything that could break out of a header line. */
export function oneHeaderLine(text: string): string {
  return text
    .replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, " ")
    .replace(/ {2,}/g, " ")
    .trim();
}

/** Base64 words of at most 75 signs, each whole in itself: RFC 2047, sections 2 and 5. */
function encodedWords(line: string): string[] {
  const words: string[] = [];
  const encoder = new TextEncoder();
  let part = "";
  for (const sign of line) {
    if (encoder.encode(part + sign).length > 42) {
      words.push(part);
      part = "";
    }
    part += sign;
  }
  if (part !== "") words.push(part);
  return words.map((word) => `=?utf-8?B?${base64(encoder.encode(word))}?=`);
}

function base64(bytes: Uint8Array): string {
  return btoa(String.fromCharCode(...bytes));
}
