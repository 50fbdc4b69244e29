import { ALL_MEANINGS } from "../meanings/allMeanings";
import type { MeaningId } from "../meanings/meaning";
import { ALL_RELATIONS } from "../relations/allRelations";
import type { Evidence } from "./evidence";
import { titlePoints } from "./titlePoints";

/** A reading of all columns together, with how much it outweighs the next best reading of each. */
export interface Decision {
  labels: MeaningId[];
  /** For each column the other meanings that come into question, the likeliest first, with how many points they lose. */
  others: { meaning: MeaningId; loses: number }[][];
}

/** What a column could be by itself, with its points. */
interface Candidate {
  meaning: MeaningId;
  points: number;
}

const RULED_OUT = -5.5;
const MOST_CANDIDATES = 7;
const ROUNDS = 12;
const DOUBTFUL = 6;
/** Columns that put nobody on a list: which of these one is makes no question. */
const NOT_USED: readonly MeaningId[] = ["unread", "private", "detail"];

/** How much what is known beside the sheet speaks for a meaning of a column, in points. */
export type KnownPoints = (meaning: MeaningId, column: number) => number;

/** The points of every meaning for one column by itself: its title and its cells. */
function pointsAlone(evidence: Evidence, column: number, known?: KnownPoints): Candidate[] {
  const foundColumn = evidence.columns[column];
  if (foundColumn === undefined) return [];
  return ALL_MEANINGS.map((meaning) => ({
    meaning: meaning.id,
    points:
      titlePoints(meaning, foundColumn.title) +
      meaning.cells(foundColumn.profile) +
      (known?.(meaning.id, column) ?? 0),
  }));
}

/**
 * Finds the best consistent reading of all columns: from what each would be by itself, changing one column, or two at a
 * time, for as long as the whole gains by it.
 *
 * @param settled columns whose meaning is known already, by index
 * @param known what is known beside the sheet
 */
export function decide(
  evidence: Evidence,
  settled: ReadonlyMap<number, MeaningId> = new Map(),
  known?: KnownPoints,
): Decision {
  const candidates = evidence.columns.map((_, column) =>
    candidatesFor(evidence, column, settled, known),
  );
  const alone = candidates.map(
    (candidate) => new Map(candidate.map(({ meaning, points }) => [meaning, points])),
  );
  const total = (labels: readonly MeaningId[]): number =>
    labels.reduce((sum, label, column) => sum + (alone[column]?.get(label) ?? -99), 0) +
    ALL_RELATIONS.reduce((sum, relation) => sum + relation.points(labels, evidence), 0);
  const open = candidates.flatMap((candidate, column) => (candidate.length > 1 ? [column] : []));
  // Two at a time are only changed where neither is plain by itself.
  const doubtful = open.map((column) => ({
    column,
    likely: (candidates[column] ?? [])
      .filter(({ points }) => points > (candidates[column]?.[0]?.points ?? 0) - DOUBTFUL)
      .slice(0, 5),
  }));
  let best = candidates.map((candidate) => candidate[0]?.meaning ?? "unread");
  let bestTotal = total(best);
  const attempt = (labels: MeaningId[]): boolean => {
    const points = total(labels);
    if (points <= bestTotal + 1e-9) return false;
    best = labels;
    bestTotal = points;
    return true;
  };
  const changeOne = (): boolean => {
    let gained = false;
    for (const column of open)
      for (const { meaning } of candidates[column] ?? [])
        if (meaning !== best[column] && attempt(best.with(column, meaning))) gained = true;
    return gained;
  };
  const changeTwo = (): boolean => {
    let gained = false;
    for (const [at, { column: one, likely: firsts }] of doubtful.entries())
      for (const { column: other, likely: seconds } of doubtful.slice(at + 1))
        for (const { meaning: first } of firsts)
          for (const { meaning: second } of seconds)
            if (
              (first !== best[one] || second !== best[other]) &&
              first !== "unread" &&
              attempt(best.with(one, first).with(other, second))
            )
              gained = true;
    return gained;
  };
  for (let round = 0; round < ROUNDS; round++) {
    while (changeOne());
    if (open.length > 40 || !changeTwo()) break;
  }
  return { labels: best, others: othersOf(best, bestTotal, candidates, total) };
}

function candidatesFor(
  evidence: Evidence,
  column: number,
  settled: ReadonlyMap<number, MeaningId>,
  known: KnownPoints | undefined,
): Candidate[] {
  const said = settled.get(column);
  if (said !== undefined) return [{ meaning: said, points: 0 }];
  const all = pointsAlone(evidence, column, known)
    .filter(({ meaning }) => comesIntoQuestion(meaning, evidence))
    .sort((a, b) => b.points - a.points);
  const [top] = all;
  if (evidence.columns[column]?.profile.count === 0) {
    // An empty column can't be told by its cells; it is only taken for what its title says plainly.
    return top !== undefined && top.points > 2.5 && top.meaning !== "unread"
      ? [top, { meaning: "unread", points: 2 }]
      : [{ meaning: "unread", points: 0 }];
  }
  const likely = all
    .filter(({ points }) => points > RULED_OUT && points > (top?.points ?? 0) - 9)
    .slice(0, MOST_CANDIDATES);
  return likely.some(({ meaning }) => meaning === "unread")
    ? likely
    : [
        ...likely,
        { meaning: "unread", points: all.find(({ meaning }) => meaning === "unread")?.points ?? 0 },
      ];
}

/** In a list of staff there are no children, parents or classes; families have numbers where each row is one person. */
function comesIntoQuestion(meaning: MeaningId, { staff, persons }: Evidence): boolean {
  if (staff !== undefined) return OF_STAFF.has(meaning);
  return persons || meaning !== "family";
}

const OF_STAFF: ReadonlySet<MeaningId> = new Set<MeaningId>([
  "coach",
  "coach.address",
  "private",
  "unread",
]);

/** What each column would be otherwise, the rest making the best of it, and what that loses. */
function othersOf(
  best: readonly MeaningId[],
  bestTotal: number,
  candidates: readonly (readonly Candidate[])[],
  total: (labels: readonly MeaningId[]) => number,
): Decision["others"] {
  return best.map((label, column) =>
    (candidates[column] ?? [])
      .filter(
        ({ meaning }) =>
          meaning !== label && !(NOT_USED.includes(label) && NOT_USED.includes(meaning)),
      )
      .map(({ meaning }) => {
        const changed = best.with(column, meaning);
        const holder = best.indexOf(meaning);
        // Where another column has it, that one gives way: to what this one was, or to nothing.
        const ways =
          holder < 0
            ? [changed]
            : [changed, changed.with(holder, label), changed.with(holder, "unread")].filter(
                (labels) =>
                  candidates[holder]?.some((candidate) => candidate.meaning === labels[holder]) ??
                  false,
              );
        return { meaning, loses: bestTotal - Math.max(...ways.map(total)) };
      })
      .sort((a, b) => a.loses - b.loses),
  );
}
