/** The octets from one to another, both counted from 0 and in it. */
export interface ByteRange {
  first: number;
  last: number;
}

/**
 * Reads which part of a file is asked for (RFC 9110, section 14.2). Several parts at once, and what can't be read, are answered with
 * the whole, as the standard allows.
 *
 * @param header the value of the Range field
 * @param size   of the file, in octets
 * @returns undefined for the whole, "none" where the part lies outside the file
 */
export function byteRange(
  header: string | undefined,
  size: number,
): ByteRange | "none" | undefined {
  const [, from = "", until = ""] = /^bytes=(\d{0,15})-(\d{0,15})$/.exec(header ?? "") ?? [];
  if (from === "" && until === "") return undefined;
  if (from === "") {
    const length = Math.min(Number(until), size);
    return length === 0 ? "none" : { first: size - length, last: size - 1 };
  }
  const first = Number(from);
  const last = until === "" ? size - 1 : Math.min(Number(until), size - 1);
  if (until !== "" && Number(until) < first) return undefined;
  return first >= size ? "none" : { first, last };
}
