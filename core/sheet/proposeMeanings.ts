import { decide } from "./columns/decide";
import { gatherEvidence, type Evidence } from "./columns/evidence";
import { giveSlots } from "./columns/giveSlots";
import { foldWords, knownPoints, type KnownWords } from "./columns/knownWords";
import { meaningOf } from "./meanings/allMeanings";
import type { MeaningId } from "./meanings/meaning";
import type { FoundColumn } from "./columns/columnEvidence";

/** What one column is taken to hold. `confidence` runs from 0 to 1; `slot` counts guardians, marks and children from 1, else 0. */
export interface ColumnMeaning {
  meaning: MeaningId;
  slot: number;
  confidence: number;
}

/** The meanings of all columns of a table, with what they were told by. */
export interface Proposal {
  columns: ColumnMeaning[];
  /** For each column what else it could be, the likeliest first, and how sure that would be. */
  others: { meaning: MeaningId; confidence: number }[][];
  /** Addresses of which only their order says whose they are. */
  guessed: ReadonlySet<number>;
  evidence: Evidence;
}

/** How many points make one how much surer; found by `bench/understanding`. */
const POINT = 0.85;

/** Proposes a meaning for every column: the best consistent reading of all titles and cells together. */
export function proposeMeanings(
  columns: readonly FoundColumn[],
  {
    settled = new Map(),
    known,
  }: {
    settled?: ReadonlyMap<number, { meaning: MeaningId; slot: number }>;
    known?: KnownWords | undefined;
  } = {},
): Proposal {
  const evidence = gatherEvidence(columns);
  const words = known === undefined ? undefined : foldWords(known);
  const { labels, others } = decide(
    evidence,
    new Map([...settled].map(([column, { meaning }]) => [column, meaning])),
    words === undefined
      ? undefined
      : (meaning, column) => {
          const foundColumn = evidence.columns[column];
          return foundColumn === undefined
            ? 0
            : knownPoints(meaning, columns[column]?.title ?? "", foundColumn, words);
        },
  );
  const slots = giveSlots(labels, evidence, settled);
  return {
    evidence,
    guessed: slots.guessed,
    columns: labels.map((label, column): ColumnMeaning => {
      const slot = slots.of[column];
      const confidence = settled.has(column) ? 1 : sureness(others[column]?.[0]?.loses ?? 8);
      if (slot === undefined) return { meaning: "unread", slot: 0, confidence: 0.5 };
      return {
        meaning: label,
        slot: meaningOf(label).slotted ? Math.max(slot, 1) : slot,
        confidence:
          evidence.columns[column]?.profile.count === 0 && label === "unread" ? 1 : confidence,
      };
    }),
    others: others.map((item) =>
      item.map(({ meaning, loses }) => ({ meaning, confidence: 1 - sureness(loses) })),
    ),
  };
}

/** Turns a lead in points over the next best reading into a sureness from 0 to 1. */
function sureness(points: number): number {
  return 1 / (1 + Math.exp(-POINT * points));
}
