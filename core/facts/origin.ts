import type { MeaningId } from "../sheet/meanings/meaning";

/**
 * Where a fact was read: the reading, sheet and row (counted from 1), and what its cell holds; the
 * correction by which the cell was read otherwise than it is written. Or who told it by hand, and when.
 */
export type Origin =
  | {
      from: "row";
      source: string;
      reading: string;
      sheet: string;
      row: number;
      meaning: MeaningId;
      slot: number;
      corrected?: string;
    }
  | { from: "hand"; by: string; at: string }
  | { from: "rule"; rule: RuleOfHouse };

/** What Amigo itself adds: students' inside addresses, names by the convention, what a new season takes along. */
export type RuleOfHouse = "student-address" | "convention" | "carried over";
