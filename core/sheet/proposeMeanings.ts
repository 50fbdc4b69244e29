import { fold } from "../text/fold";
import { ALL_MEANINGS, meaningOf } from "./meanings/allMeanings";
import type { ColumnProfile, Meaning, MeaningId } from "./meanings/meaning";

/** What one column is taken to hold. `confidence` runs from 0 to 1; `slot` counts guardians from 1, else 0. */
export interface ColumnMeaning {
  meaning: MeaningId;
  slot: number;
  confidence: number;
}

/** A column as found: its own title, the joined title above it, and what its cells look like. */
export interface FoundColumn {
  title: string;
  group: string;
  profile: ColumnProfile;
}

/** Below this a proposal is not made at all. */
const LEAST = 0.45;
/** A title as sure as this stands even against its cells, though only as a question. */
const SURE_TITLE = 0.95;
const UNSURE = 0.5;
const LAST_SLOT = 4;

/**
 * Proposes a meaning for every column from its title and from what its cells hold. Each meaning is
 * given once (slotted ones once a slot), the surest first; what is left over stays unread.
 */
export function proposeMeanings(columns: readonly FoundColumn[]): ColumnMeaning[] {
  const answer = columns.map((): ColumnMeaning => ({ meaning: "unread", slot: 0, confidence: 0 }));
  const bids = columns.flatMap((column, index) =>
    ALL_MEANINGS.map((meaning) => ({
      index,
      meaning,
      confidence: confidenceIn(meaning, column),
    })).filter((bid) => bid.confidence >= LEAST),
  );
  bids.sort((a, b) => b.confidence - a.confidence || a.index - b.index);
  const taken = new Set<MeaningId>();
  const settled = new Set<number>();
  for (const { index, meaning, confidence } of bids) {
    if (settled.has(index) || (!meaning.slotted && taken.has(meaning.id))) continue;
    settled.add(index);
    taken.add(meaning.id);
    answer[index] = { meaning: meaning.id, slot: 0, confidence };
  }
  if (taken.has("student.given") && taken.has("student.surname")) {
    answer.forEach((given, index) => {
      if (given.meaning === "student.name")
        answer[index] = { meaning: "unread", slot: 0, confidence: 0 };
    });
  }
  giveSlots(columns, answer);
  columns.forEach((column, index) => {
    const given = answer[index];
    if (given?.meaning === "unread") given.confidence = column.profile.filled === 0 ? 1 : 0.5;
  });
  return answer;
}

function confidenceIn(meaning: Meaning, column: FoundColumn): number {
  const own = titleScore(meaning, fold(column.title));
  const withGroup =
    column.group === "" ? 0 : titleScore(meaning, fold(`${column.group} ${column.title}`)) * 0.9;
  const title = Math.max(own, withGroup);
  const cells = column.profile.filled === 0 ? 0.5 : meaning.cells(column.profile);
  const known = meaning.known?.(column.profile) ?? 0;
  if (title === 0) return known;
  // A plain title that the cells belie is asked about, any other is not proposed.
  if (cells < 0.15) return title >= SURE_TITLE ? UNSURE : title * 0.3;
  return Math.max(known, title * (0.55 + 0.45 * cells));
}

/** How sure a column's title makes one, all by itself, that it has a meaning: 0 to 1. */
export function titleSureness(
  id: MeaningId,
  { title, group }: Pick<FoundColumn, "title" | "group">,
): number {
  const meaning = meaningOf(id);
  return Math.max(
    titleScore(meaning, fold(title)),
    group === "" ? 0 : titleScore(meaning, fold(`${group} ${title}`)),
  );
}

function titleScore(meaning: Meaning, title: string): number {
  return Math.max(
    0,
    ...meaning.titles.filter(([pattern]) => pattern.test(title)).map(([, score]) => score),
  );
}

const SLOT_WORDS: readonly (readonly [RegExp, number])[] = [
  [/\b(1|one|first|mother|mum|primary)\b/, 1],
  [/\b(2|two|second|father|dad|secondary|other)\b/, 2],
  [/\b(3|three|third)\b/, 3],
  [/\b(4|four|fourth)\b/, 4],
];

/** Gives guardian columns their slot: by a number or word in the own title, else by the order in the sheet. */
function giveSlots(columns: readonly FoundColumn[], answer: ColumnMeaning[]): void {
  const used = new Set<string>();
  const claim = (given: ColumnMeaning, slot: number): boolean => {
    const key = `${given.meaning} ${slot}`;
    if (used.has(key)) return false;
    used.add(key);
    given.slot = slot;
    return true;
  };
  const open: ColumnMeaning[] = [];
  columns.forEach((column, index) => {
    const given = answer[index];
    if (given === undefined || !meaningOf(given.meaning).slotted) return;
    const titles = [fold(column.title), fold(column.group)];
    const said = titles.flatMap((title) =>
      SLOT_WORDS.filter(([word]) => word.test(title)).map(([, slot]) => slot),
    )[0];
    if (said === undefined || !claim(given, said)) open.push(given);
  });
  for (const given of open) {
    let slot = 1;
    while (slot <= LAST_SLOT && !claim(given, slot)) slot++;
    if (slot > LAST_SLOT) Object.assign(given, { meaning: "unread", slot: 0, confidence: 0 });
  }
}
