import { isUsed } from "./meanings/isUsed";
import { nameKey } from "../identity/sameName";
import { fold } from "../text/fold";
import { hash } from "../text/hash";
import type { ReadingPlan } from "./table";
import type { RowRecord } from "./rowRecord";

/** How much a sheet is like the last one of a source, in shares from 0 to 1. */
export interface SourceLikeness {
  source: string;
  /** How much its columns are those of the last time. */
  columns: number;
  /** Of the students of the last time, those who are in this sheet. */
  kept: number;
  /** Of the students of this sheet, those who were there last time. */
  known: number;
}

/** Which source a sheet belongs to: one that it continues, a new one, or one of several that somebody has to choose from. */
export type WhichSource =
  { is: "the next of"; source: string } | { is: "new" } | { is: "unsure"; sources: string[] };

const ALIKE = 0.6;
const SOMEWHAT = 0.4;
const MOST = 0.5;
const SOME = 0.15;
const AHEAD = 0.3;

/** Chooses the source that a dropped sheet continues: its columns are there again, and most of its students. */
export function whichSource(sources: readonly SourceLikeness[]): WhichSource {
  const people = ({ kept, known }: SourceLikeness): number => Math.max(kept, Math.min(known, 0.9));
  const likely = sources
    .filter((sourceLikeness) => sourceLikeness.columns >= ALIKE && people(sourceLikeness) >= SOME)
    .sort((a, b) => people(b) - people(a) || b.columns - a.columns);
  const [best, second] = likely;
  const doubtful = sources.filter(
    (sourceLikeness) =>
      !likely.includes(sourceLikeness) &&
      sourceLikeness.columns >= SOMEWHAT &&
      sourceLikeness.kept >= 0.8 &&
      sourceLikeness.known >= 0.8,
  );
  if (best === undefined)
    return doubtful.length === 0
      ? { is: "new" }
      : { is: "unsure", sources: doubtful.map(({ source }) => source) };
  const alone = second === undefined || people(best) - people(second) >= AHEAD;
  // Where most of the last time's students are missing, somebody has to say that this is the same sheet.
  return best.kept >= MOST && alone
    ? { is: "the next of", source: best.source }
    : { is: "unsure", sources: likely.map(({ source }) => source) };
}

/**
 * How much the columns of a sheet are those that were read last time, by title or by what they hold, from 0 to 1: columns that
 * are gone count against it as well as columns that are new. One sheet a class is another layout than one sheet for all.
 */
export function columnsKept(
  now: Pick<ReadingPlan, "columns" | "others">,
  last: Pick<ReadingPlan, "columns" | "others">,
): number {
  const read = last.columns.filter(({ meaning }) => isUsed(meaning));
  const titles = new Set(
    now.columns.map(({ title }) => fold(title)).filter((title) => title !== ""),
  );
  const meanings = new Set(now.columns.map(({ meaning, slot }) => `${meaning} ${slot}`));
  const kept = read.filter(
    ({ title, meaning, slot }) => titles.has(fold(title)) || meanings.has(`${meaning} ${slot}`),
  ).length;
  const most = Math.max(read.length, now.columns.filter(({ meaning }) => isUsed(meaning)).length);
  const isSameLayout = (now.others ?? []).length > 0 === (last.others ?? []).length > 0;
  const areAnswers = ({ columns }: Pick<ReadingPlan, "columns">): boolean =>
    columns.some(({ meaning }) => meaning === "answered");
  const isSameKind = areAnswers(now) === areAnswers(last);
  return most === 0 ? 0 : (kept / most) * (isSameLayout ? 1 : 0.6) * (isSameKind ? 1 : 0.5);
}

/** The students of a sheet by their name keys; where there are many, only some of them, and the same ones in every sheet. */
export function studentSample(records: readonly RowRecord[], oneIn: number): string[] {
  const keys = new Set(records.map(({ name }) => nameKey(name)));
  return [...keys].filter(
    (key) => oneIn <= 1 || Number.parseInt(hash(key).slice(0, 6), 16) % oneIn === 0,
  );
}
