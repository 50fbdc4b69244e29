/** A text file's letters, and the encoding they were in. */
export interface DecodedText {
  text: string;
  encoding: "utf-8" | "utf-16le" | "utf-16be" | "windows-1252";
}

/**
 * Turns the octets of a text file into text: by its byte-order mark, else as UTF-16 when every
 * other octet is zero, else as UTF-8 when it is valid, else as Windows-1252.
 *
 * @returns undefined when the octets are no text at all
 */
export function decodeText(bytes: Uint8Array): DecodedText | undefined {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return decoded(bytes, "utf-8");
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return decoded(bytes, "utf-16le");
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return decoded(bytes, "utf-16be");
  const sample = bytes.subarray(0, 4096);
  const zeros = [0, 0];
  sample.forEach((octet, index) => {
    if (octet === 0) zeros[index % 2] = (zeros[index % 2] ?? 0) + 1;
  });
  if ((zeros[1] ?? 0) > sample.length / 4) return decoded(bytes, "utf-16le");
  if ((zeros[0] ?? 0) > sample.length / 4) return decoded(bytes, "utf-16be");
  if ((zeros[0] ?? 0) + (zeros[1] ?? 0) > 0) return undefined;
  let controls = 0;
  for (const octet of sample)
    if (octet < 32 && octet !== 9 && octet !== 10 && octet !== 13 && octet !== 12) controls++;
  if (controls > sample.length / 100) return undefined;
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes), encoding: "utf-8" };
  } catch {
    return { text: decodeWindows1252(bytes), encoding: "windows-1252" };
  }
}

/** The signs of Windows-1252 at 0x80 to 0x9F; the others are those of Latin-1. Some engines' own decoders leave these out. */
const HIGH_SIGNS = "€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008DŽ\u008F\u0090‘’“”•–—˜™š›œ\u009DžŸ";

function decodeWindows1252(bytes: Uint8Array): string {
  return new TextDecoder("latin1")
    .decode(bytes)
    .replace(/[\u0080-\u009F]/g, (sign) => HIGH_SIGNS[sign.charCodeAt(0) - 0x80] ?? sign);
}

function decoded(bytes: Uint8Array, encoding: DecodedText["encoding"]): DecodedText {
  return { text: new TextDecoder(encoding).decode(bytes), encoding };
}

/**
 * Turns text into octets again in the encoding of a file, with a byte-order mark where the file had one. A sign that the
 * encoding lacks becomes `?`.
 */
export function encodeText(
  text: string,
  encoding: DecodedText["encoding"],
  like: Uint8Array,
): Uint8Array {
  if (encoding === "utf-8")
    return joinedOctets(
      like[0] === 0xef && like[1] === 0xbb && like[2] === 0xbf ? [0xef, 0xbb, 0xbf] : [],
      new TextEncoder().encode(text),
    );
  if (encoding === "windows-1252")
    return Uint8Array.from(text, (sign) => {
      const code = sign.charCodeAt(0);
      const high = HIGH_SIGNS.indexOf(sign);
      return high >= 0
        ? 0x80 + high
        : code < 0x80 || (code > 0x9f && code < 0x100 && sign.length === 1)
          ? code
          : 0x3f;
    });
  const little = encoding === "utf-16le";
  const octets = new Uint8Array(text.length * 2);
  for (let index = 0; index < text.length; index++) {
    const code = text.charCodeAt(index);
    octets[index * 2 + (little ? 0 : 1)] = code & 0xff;
    octets[index * 2 + (little ? 1 : 0)] = code >> 8;
  }
  const hasMark = (like[0] === 0xff && like[1] === 0xfe) || (like[0] === 0xfe && like[1] === 0xff);
  return joinedOctets(hasMark ? (little ? [0xff, 0xfe] : [0xfe, 0xff]) : [], octets);
}

function joinedOctets(mark: readonly number[], octets: Uint8Array): Uint8Array {
  const made = new Uint8Array(mark.length + octets.length);
  made.set(mark);
  made.set(octets, mark.length);
  return made;
}
