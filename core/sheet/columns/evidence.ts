import { spreadOver } from "./spreadOver";
import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import type { Concept } from "../lexicon/language";
import { lexicon, type Lexicon } from "../lexicon/lexicon";
import { decides, likeness, remembered, sameWithin, type Likeness } from "./compareColumns";
import { profileColumn, type ColumnProfile } from "./profileColumn";
import { guessLanguages } from "./guessLanguages";
import { staffColumn } from "./staffColumn";
import { readTitle } from "./readTitle";
import type { Languages, TitleReading } from "./titleReading";
import type { FoundColumn, ColumnEvidence } from "./columnEvidence";

/** Everything that is known of the columns of a sheet, and of pairs of them. */
export interface Evidence {
  columns: readonly ColumnEvidence[];
  languages: Languages;
  /** How many children a row has by its titles; 1 where nothing numbers them. */
  children: number;
  /** Whether anything in the sheet speaks of people at all: addresses, given names, titles. */
  people: boolean;
  /** Whether each row is one person, a child or an adult, as one of the columns says. */
  persons: boolean;
  /** The column by which the sheet is a list of staff; undefined where it isn't one. */
  staff: number | undefined;
  /** In how many rows a word of one column stands in the address in another. */
  holds(names: number, addresses: number): Likeness;
  /** In how many rows the first name in one column stands in the address in another, or its initial with the surname. */
  holdsFirst(names: number, addresses: number): Likeness;
  /** In how many rows two columns share a word. */
  shares(one: number, other: number): Likeness;
  /** Of the values that stand in several rows of one column, for how many another column is the same in all of them. */
  sameWithin(values: number, column: number): { share: number; groups: number };
  /** Whether the value in one column nearly always decides that in another. */
  decides(one: number, other: number): number;
}

/** How many rows are compared; more would tell nothing new. */
const SAMPLE = 160;
const SHORTEST_WORD = 3;
/** Where as many names begin with a common first name as end with one, their order is not known. */
const UNSURE_ORDER = 0.1;

/** Gathers what is known of the columns of a sheet. */
export function gatherEvidence(columns: readonly FoundColumn[], of: Lexicon = lexicon()): Evidence {
  const rows = Math.max(0, ...columns.map(({ cells }) => cells.length));
  const looked = spreadOver(rows, SAMPLE);
  const sampled = columns.map(({ cells }) =>
    looked.map((row) => tidyLine((cells[row] ?? "").slice(0, 300))),
  );
  const folded = sampled.map((cells) =>
    cells.map((cell) => (cell.includes("@") ? cell.toLowerCase() : fold(cell))),
  );
  const languages = guessLanguages(
    columns.flatMap(({ title, group }) => [title, group]),
    folded.flatMap((cells) =>
      cells.slice(0, 60).flatMap((cell) => (cell.includes("@") ? [] : cell.split(" "))),
    ),
    of,
  );
  const evidences = columns.map(({ title, group, cells }, index): ColumnEvidence => {
    const mine = folded[index] ?? [];
    const profile = profileColumn(cells, of);
    return {
      title: believable(
        // An empty column without a title of its own only stands between others.
        readTitle(
          { title, group: title === "" && profile.count === 0 ? "" : group },
          languages,
          of,
        ),
        profile,
      ),
      profile,
      words: mine.map((cell) =>
        cell.includes("@") ? [] : cell.split(" ").filter((word) => word.length >= SHORTEST_WORD),
      ),
      cells: mine,
      boxes: mine.map(boxesIn),
    };
  });
  numberRepeated(columns, evidences);
  fillPattern(evidences);
  return {
    columns: evidences,
    languages,
    children: countChildren(evidences),
    people: evidences.some(speaksOfPeople),
    persons: evidences.some(({ profile }) => profile.kinds > 0.8),
    staff: staffColumn(evidences),
    holds: remembered((a, b) =>
      likeness(evidences[a], evidences[b], (names, addresses, row, other) => {
        const words = names.words[other] ?? [];
        const box = addresses.boxes[row] ?? "";
        return words.length === 0 || box === ""
          ? undefined
          : words.some((word) => box.includes(word));
      }),
    ),
    holdsFirst: remembered((a, b) =>
      likeness(evidences[a], evidences[b], (names, addresses, row, other) =>
        holdsFirst(names, other, addresses.boxes[row] ?? ""),
      ),
    ),
    shares: remembered((a, b) =>
      likeness(evidences[a], evidences[b], (one, two, row, other) => {
        const left = one.words[other] ?? [];
        const right = two.words[row] ?? [];
        return left.length === 0 || right.length === 0
          ? undefined
          : left.some((word) => right.includes(word));
      }),
    ),
    sameWithin: remembered((a, b) =>
      sameWithin(evidences[a]?.cells ?? [], evidences[b]?.cells ?? []),
    ),
    decides: remembered((a, b) => decides(evidences[a]?.cells ?? [], evidences[b]?.cells ?? [])),
  };
}

/** Whether a mailbox is named after somebody rather than after their family: `hedda`, `h.moreau`; undefined where either is empty. */
function holdsFirst(
  { cells, profile }: ColumnEvidence,
  row: number,
  box: string,
): boolean | undefined {
  const words = (cells[row] ?? "").split(" ").filter((word) => word !== "");
  if (words.length === 0 || box === "") return undefined;
  const isLast = profile.commaName > 0.5 || profile.givenLast > profile.givenFirst;
  const isOrderKnown =
    profile.commaName > 0.5 || Math.abs(profile.givenLast - profile.givenFirst) > UNSURE_ORDER;
  const first = words[isLast ? words.length - 1 : 0] ?? "";
  if (isOrderKnown && first.length >= SHORTEST_WORD && box.includes(first)) return true;
  // In whichever order: the initial of one word in front of another, or two words.
  return words.some((word) =>
    words.some(
      (other) =>
        other !== word &&
        other.length >= SHORTEST_WORD &&
        box.startsWith(word.slice(0, 1)) &&
        box.slice(1).includes(other),
    ),
  );
}

function speaksOfPeople({ title, profile }: ColumnEvidence): boolean {
  return (
    profile.address > 0.2 ||
    profile.givenFirst > 0.45 ||
    profile.givenLast > 0.45 ||
    title.whose.size > 0 ||
    ["surname", "given", "email"].some((concept) => title.what.has(concept as Concept)) ||
    (title.what.has("name") && profile.wordsEach > 1.5)
  );
}

/** A title without what its cells rule out: a column of `x` called "Alder" holds no ages, whatever language it may be. */
function believable(title: TitleReading, profile: ColumnProfile): TitleReading {
  if (profile.count < 3) return title;
  const digits = Math.max(profile.number, profile.date, profile.phone, profile.code);
  const what = new Map<Concept, number>(
    [...title.what].filter(
      ([concept]) =>
        !(NEEDS_DIGITS.has(concept) && digits < 0.2) &&
        !(concept === "email" && profile.address < 0.05),
    ),
  );
  // "Tutor base" over `Y4 Maple` names no tutor.
  const whose = new Map(
    [...title.whose].filter(
      ([who]) =>
        who !== "staff" ||
        profile.nameLike >= 0.3 ||
        profile.address > 0.05 ||
        (digits > 0.9 && profile.classCode <= 0.7),
    ),
  );
  // "Tutor" over `9KL` is the tutor's group.
  if (title.whose.has("staff") && whose.size === 0 && what.size === 0 && profile.classCode > 0.7)
    what.set("class", 0.8);
  return what.size === title.what.size && whose.size === title.whose.size
    ? title
    : { ...title, what, whose, known: what.size > 0 || whose.size > 0 };
}

const NEEDS_DIGITS: ReadonlySet<Concept> = new Set<Concept>([
  "birth",
  "phone",
  "submitted",
  "postcode",
  "number",
]);

function boxesIn(cell: string): string {
  return cell
    .split(/[\s;,<>]+/)
    .filter((piece) => piece.includes("@"))
    .map((piece) => fold(piece.slice(0, piece.indexOf("@"))).replaceAll(" ", ""))
    .join(" ");
}

/** Titles that are written several times over are numbered in their order. */
function numberRepeated(columns: readonly FoundColumn[], columnEvidence: ColumnEvidence[]): void {
  const places = new Map<string, number[]>();
  columns.forEach(({ title, group }, index) => {
    const key = `${fold(group)}|${fold(title)}`;
    if (fold(title) !== "") places.set(key, [...(places.get(key) ?? []), index]);
  });
  for (const indices of places.values()) {
    if (indices.length < 2 || indices.length > 6) continue;
    indices.forEach((index, at) => {
      const evidence = columnEvidence[index];
      if (evidence !== undefined && evidence.title.slot === "")
        columnEvidence[index] = { ...evidence, title: { ...evidence.title, slot: String(at + 1) } };
    });
  }
}

/**
 * Where columns of one child after the other come in a pattern, a column whose title says nothing is what its place in the
 * pattern says.
 */
function fillPattern(columnEvidence: ColumnEvidence[]): void {
  if (countChildren(columnEvidence) < 2) return;
  const of = (column: number): TitleReading | undefined => {
    const title = columnEvidence[column]?.title;
    return title !== undefined && title.whose.has("student") && /^\d$/.test(title.slot)
      ? title
      : undefined;
  };
  const firsts = columnEvidence.flatMap((_, column) => {
    const title = of(column);
    return title !== undefined &&
      (title.what.size === 0 || title.what.has("name") || title.what.has("given"))
      ? [{ column, slot: Number(title.slot) }]
      : [];
  });
  const [one, other] = firsts;
  if (one === undefined || other === undefined || other.slot === one.slot) return;
  const period = Math.round((other.column - one.column) / (other.slot - one.slot));
  if (period < 1) return;
  columnEvidence.forEach((evidence, column) => {
    if (evidence.title.known) return;
    for (const by of [1, -1, 2, -2]) {
      const like = of(column + by * period);
      const slot = like === undefined ? 0 : Number(like.slot) - by;
      if (like === undefined || slot < 1) continue;
      columnEvidence[column] = { ...evidence, title: { ...like, slot: String(slot) } };
      return;
    }
  });
}

/** A row has several children where titles number them: "Child 1", "Child 2 class". */
function countChildren(columns: readonly ColumnEvidence[]): number {
  const slots = new Set(
    columns
      .filter(({ title }) => title.whose.has("student") && /^\d$/.test(title.slot))
      .filter(({ title: { what } }) => what.size === 0 || what.has("name") || what.has("given"))
      .map(({ title }) => title.slot),
  );
  return slots.size > 1 ? slots.size : 1;
}
