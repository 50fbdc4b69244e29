import { utils, write } from "@e965/xlsx";

/** How large the made school is. */
export interface Size {
  students: number;
  guardians: number;
  classes: number;
}

/** The size of a school of so many students: as many guardians and classes for each as in schools of any size. */
export function sizeOf(students: number): Size {
  return {
    students,
    guardians: Math.round(students * 1.6),
    classes: Math.max(1, Math.round(students * 0.03)),
  };
}

/** The size that the figures are given for: 600 classes make 1,200 lists by the two recipes of every house. */
export const LARGE: Size = sizeOf(20_000);

const GIVEN = [
  "Ida",
  "Bram",
  "Una",
  "Wren",
  "Zoë",
  "Otto",
  "Petra",
  "Halim",
  "Sunniva",
  "Emre",
  "Niamh",
  "Björn",
  "Ana",
  "Chloé",
  "Tariq",
  "Rosa",
  "Leif",
  "Signe",
  "Goran",
  "Mina",
];
const FAMILY = [
  "Brandt",
  "Eastlake",
  "Holm",
  "Quist",
  "Vanstone",
  "Çelik",
  "Dvořák",
  "Achterberg",
  "Corrigan",
  "Fälth",
  "Merrow",
  "Sandoval",
  "Gallo",
  "Pellegrin",
  "Whitlock",
  "Tanaka",
];
const DOMAINS = [
  "brightpost.example",
  "mailhaven.example",
  "oakmail.example",
  "lettr.example",
  "fernpost.example",
];
const SITES = ["Big Barn", "Mill Loft"];
const HEAD = [
  "Student no.",
  "Surname",
  "First name",
  "Level",
  "Site",
  "Class(es)",
  "Coach",
  "Parent/carer 1",
  "Email 1",
  "Parent/carer 2",
  "Email 2",
];

/**
 * A made roster as rows of cells: families of one to three children, one or two guardians each, a fault in
 * every fortieth address. The same seed always makes the same roster.
 *
 * @param changed the share of students, 0 to 1, of whom something is different: class, address, or gone
 */
export function makeRoster({ students, guardians, classes }: Size, changed = 0): string[][] {
  const random = seeded(42);
  const other = seeded(7);
  const pick = <Value>(from: readonly Value[], at: number): Value =>
    from[at % from.length] as Value;
  const rows: string[][] = [["Copperwheel Circus School: the made roster"], [], HEAD];
  // So many families share their guardians among their children that the counts come out as asked.
  const families = Math.round(guardians / 1.6);
  let family = -1;
  let left = 0;
  for (let at = 0; at < students; at++) {
    if (left === 0) {
      family++;
      left = students - at > families - family ? 2 : 1;
    }
    left--;
    const surname = `${pick(FAMILY, family * 7 + Math.floor(family / 16))}${family % 97 === 0 ? "-Holm" : ""}`;
    const two = family % 5 < 3;
    const guardian = (turn: number): [string, string] => {
      const given = pick(GIVEN, family * 3 + turn * 11);
      const domain = pick(DOMAINS, family + turn);
      const address = `${given
        .normalize("NFKD")
        .replace(/[^a-z]/gi, "")
        .toLowerCase()}.${family}.${turn}@${domain}`;
      return [`${given} ${surname}`, address];
    };
    const [first, firstAddress] = guardian(0);
    const [second, secondAddress] = two ? guardian(1) : ["", ""];
    const place = Math.floor(random() * classes);
    const classNames = [
      className(place),
      ...(at % 9 === 0 ? [className((place + 1) % classes)] : []),
    ];
    const isChanged = other() < changed;
    if (isChanged && at % 3 === 0) continue;
    if (isChanged && at % 3 === 1) classNames[0] = className((place + 2) % classes);
    const faulty =
      at % 40 === 0
        ? firstAddress.replace(/\.example$/, ",example")
        : at % 40 === 1
          ? ` ${firstAddress.toUpperCase()} `
          : firstAddress;
    rows.push([
      `CW-${100_000 + at}`,
      surname,
      pick(GIVEN, at * 13 + family),
      String((at % 6) + 1),
      pick(SITES, place),
      classNames.join("; "),
      "",
      first,
      isChanged && at % 3 === 2 ? `new.${firstAddress}` : faulty,
      second,
      secondAddress,
    ]);
  }
  return rows;
}

/** The rows as an XLSX file; a title of the file makes other octets of the same rows. */
export function asWorkbook(rows: readonly (readonly string[])[], title = ""): Uint8Array {
  const book = utils.book_new();
  if (title !== "") book.Props = { Title: title };
  utils.book_append_sheet(book, utils.aoa_to_sheet(rows as string[][]), "Roster");
  return new Uint8Array(
    write(book, { type: "buffer", bookType: "xlsx", compression: true }) as Buffer,
  );
}

function className(at: number): string {
  return `Class ${String(at + 1).padStart(3, "0")}`;
}

/** Numbers between 0 and 1, the same for the same seed (mulberry32). */
export function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}
