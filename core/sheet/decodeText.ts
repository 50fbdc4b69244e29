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
  const marked = BYTE_ORDER_MARKS.find(([mark]) => mark.every((octet, at) => bytes[at] === octet));
  if (marked !== undefined) return decoded(bytes, marked[1]);
  const sample = bytes.subarray(0, 4096);
  const [even, odd] = countZeros(sample);
  if (odd > sample.length / 4) return decoded(bytes, "utf-16le");
  if (even > sample.length / 4) return decoded(bytes, "utf-16be");
  if (even + odd > 0 || countControls(sample) > sample.length / 100) return undefined;
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes), encoding: "utf-8" };
  } catch {
    return { text: decodeWindows1252(bytes), encoding: "windows-1252" };
  }
}

const BYTE_ORDER_MARKS: readonly (readonly [readonly number[], DecodedText["encoding"]])[] = [
  [[0xef, 0xbb, 0xbf], "utf-8"],
  [[0xff, 0xfe], "utf-16le"],
  [[0xfe, 0xff], "utf-16be"],
];

/** Counts the zeros at even and at odd places. */
function countZeros(sample: Uint8Array): [number, number] {
  const zeros: [number, number] = [0, 0];
  for (const [at, octet] of sample.entries()) if (octet === 0) zeros[at % 2 === 0 ? 0 : 1]++;
  return zeros;
}

/** Counts control characters other than tabs, line ends and form feeds. */
function countControls(sample: Uint8Array): number {
  return sample.filter((octet) => octet < 32 && ![9, 10, 12, 13].includes(octet)).length;
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
