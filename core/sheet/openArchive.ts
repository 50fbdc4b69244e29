import { message } from "@amigo/language/message";
import { Inflate } from "fflate";
import type { FileFault, FileLimits, OrFileFault } from "./sheet";

/** The files in an archive by their names. */
export type ArchiveParts = Record<string, Uint8Array>;

interface Entry {
  name: string;
  method: number;
  packed: number;
  unpacked: number;
  /** Where its local header begins. */
  at: number;
}

const END = 0x06054b50;
const END_64 = 0x06064b50;
const LOCATOR_64 = 0x07064b50;
const CENTRAL = 0x02014b50;
const LOCAL = 0x04034b50;

/** The longest comment that may stand behind the end of a directory, and how long that end is without it. */
const LONGEST_COMMENT = 0xffff;
const END_LENGTH = 22;

/** A size or place of this value stands in the entry's ZIP64 field instead. */
const IN_ZIP64 = 0xffffffff;

/** A spreadsheet has some hundred parts at most; with pictures some thousand. */
const MOST_ENTRIES = 20_000;
const MOST_RATIO = 200;
const ALWAYS_ALLOWED = 50 * 1024 * 1024;
const STEP = 64 * 1024;

class Damaged extends Error {}
class TooFar extends Error {}

/**
 * Unpacks a ZIP archive (APPNOTE 6.3.10). What is unpacked is what the central directory names, and every local header must
 * say the same of its entry, so that two programs can't see two different files in it. Entries may not overlap, and none may
 * unpack to more than the directory says.
 *
 * @param isWanted which entries to unpack; all by default. The others count towards nothing
 * @returns the parts by name, or the fault `unpacks-too-far`, `locked-file` or `broken-file`
 */
export function openArchive(
  bytes: Uint8Array,
  limits: Pick<FileLimits, "unpackedBytes">,
  isWanted: (name: string) => boolean = () => true,
): OrFileFault<{ parts: ArchiveParts; names: string[] }> {
  try {
    const entries = readDirectory(bytes);
    refuseOverlaps(entries, bytes);
    const wanted = entries.filter(({ name }) => isWanted(name));
    const allowed = Math.min(
      limits.unpackedBytes,
      Math.max(bytes.length * MOST_RATIO, ALWAYS_ALLOWED),
    );
    if (wanted.reduce((sum, { unpacked }) => sum + unpacked, 0) > allowed) throw new TooFar();
    const parts: ArchiveParts = Object.create(null) as ArchiveParts;
    for (const entry of wanted) parts[entry.name] = unpack(bytes, entry);
    return { ok: true, parts, names: entries.map(({ name }) => name) };
  } catch (failure) {
    return { ok: false, fault: failure instanceof TooFar ? TOO_FAR : DAMAGED };
  }
}

const TOO_FAR: FileFault = {
  code: "unpacks-too-far",
  sentence: message("sheet.unpacksTooFar"),
};
const DAMAGED: FileFault = {
  code: "broken-file",
  sentence: message("sheet.damagedArchive"),
};

/** The entries as the central directory names them (sections 4.3.12 and 4.3.16). */
function readDirectory(bytes: Uint8Array): Entry[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const { count, at: start } = findDirectory(view);
  if (count > MOST_ENTRIES) throw new TooFar();
  const names = new Set<string>();
  const entries: Entry[] = [];
  let at = start;
  for (let index = 0; index < count; index++) {
    if (view.getUint32(at, true) !== CENTRAL) throw new Damaged();
    if ((view.getUint16(at + 8, true) & 1) === 1) throw new Damaged();
    const nameLength = view.getUint16(at + 28, true);
    const extraLength = view.getUint16(at + 30, true);
    const name = nameAt(bytes, at + 46, nameLength);
    if (names.has(name)) throw new Damaged();
    names.add(name);
    const [unpacked, packed, local] = wideNumbers(view, at + 46 + nameLength, extraLength, [
      view.getUint32(at + 24, true),
      view.getUint32(at + 20, true),
      view.getUint32(at + 42, true),
    ]);
    entries.push({ name, method: view.getUint16(at + 10, true), packed, unpacked, at: local });
    at += 46 + nameLength + extraLength + view.getUint16(at + 32, true);
  }
  return entries;
}

/** Where the central directory begins and how many entries it has, also by the ZIP64 record where there is one (section 4.3.14). */
function findDirectory(view: DataView): { count: number; at: number } {
  const last = view.byteLength - END_LENGTH;
  for (let at = last; at >= Math.max(0, last - LONGEST_COMMENT); at--) {
    if (view.getUint32(at, true) !== END) continue;
    if (at + END_LENGTH + view.getUint16(at + 20, true) !== view.byteLength) continue;
    const plain = { count: view.getUint16(at + 10, true), at: view.getUint32(at + 16, true) };
    if (plain.count !== 0xffff && plain.at !== IN_ZIP64) return plain;
    if (at < 20 || view.getUint32(at - 20, true) !== LOCATOR_64) return plain;
    const wide = toNumber(view, at - 12);
    if (view.getUint32(wide, true) !== END_64) throw new Damaged();
    return { count: toNumber(view, wide + 32), at: toNumber(view, wide + 48) };
  }
  throw new Damaged();
}

/** Sizes and places that don't fit into four octets, from the ZIP64 field (section 4.5.3), which holds just those. */
function wideNumbers(
  view: DataView,
  from: number,
  length: number,
  numbers: readonly [number, number, number],
): [number, number, number] {
  if (!numbers.includes(IN_ZIP64)) return [...numbers];
  for (let at = from; at + 4 <= from + length; at += 4 + view.getUint16(at + 2, true)) {
    if (view.getUint16(at, true) !== 1) continue;
    let next = at + 4;
    const wide = numbers.map((number) => {
      if (number !== IN_ZIP64) return number;
      next += 8;
      return toNumber(view, next - 8);
    });
    return [wide[0] ?? 0, wide[1] ?? 0, wide[2] ?? 0];
  }
  throw new Damaged();
}

/** The entries in order of place: each ends before the next begins, so that no octet serves twice. */
function refuseOverlaps(entries: readonly Entry[], bytes: Uint8Array): void {
  let free = 0;
  for (const entry of [...entries].sort((one, other) => one.at - other.at)) {
    if (entry.at < free) throw new Damaged();
    free = dataOf(bytes, entry) + entry.packed;
    if (free > bytes.length) throw new Damaged();
  }
}

/** Where the data of an entry begin. Its local header (section 4.3.7) must tell what the directory tells. */
function dataOf(bytes: Uint8Array, { name, method, packed, unpacked, at }: Entry): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(at, true) !== LOCAL || view.getUint16(at + 8, true) !== method)
    throw new Damaged();
  const nameLength = view.getUint16(at + 26, true);
  const extraLength = view.getUint16(at + 28, true);
  if (nameAt(bytes, at + 30, nameLength) !== name) throw new Damaged();
  // With bit 3 set the sizes stand behind the data (section 4.4.4), and here they may be nought.
  const isLater = (view.getUint16(at + 6, true) & 8) !== 0;
  const told = [view.getUint32(at + 18, true), view.getUint32(at + 22, true)];
  const isSame = told.every((size, index) => {
    const said = index === 0 ? packed : unpacked;
    return size === said || size === IN_ZIP64 || (isLater && size === 0);
  });
  if (!isSame) throw new Damaged();
  return at + 30 + nameLength + extraLength;
}

function unpack(bytes: Uint8Array, entry: Entry): Uint8Array {
  const from = dataOf(bytes, entry);
  const packed = bytes.subarray(from, from + entry.packed);
  if (entry.method === 0) {
    if (entry.packed !== entry.unpacked) throw new Damaged();
    return packed;
  }
  if (entry.method !== 8) throw new Damaged();
  const made = new Uint8Array(entry.unpacked);
  let filled = 0;
  const inflate = new Inflate((chunk) => {
    if (filled + chunk.length > made.length) throw new TooFar();
    made.set(chunk, filled);
    filled += chunk.length;
  });
  for (let at = 0; at < packed.length; at += STEP)
    inflate.push(packed.subarray(at, at + STEP), at + STEP >= packed.length);
  if (filled !== made.length) throw new Damaged();
  return made;
}

function nameAt(bytes: Uint8Array, at: number, length: number): string {
  return new TextDecoder().decode(bytes.subarray(at, at + length));
}

function toNumber(view: DataView, at: number): number {
  const value = view.getBigUint64(at, true);
  if (value > BigInt(Number.MAX_SAFE_INTEGER)) throw new Damaged();
  return Number(value);
}
