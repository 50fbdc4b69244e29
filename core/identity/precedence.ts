import { message } from "@amigo/language/message";
import type { Origin } from "../facts/origin";

/**
 * Who is believed where several say something of one person, strongest first. This is the one place where
 * it is stated; the interface shows these words.
 */
export const PRECEDENCE = [
  { id: "hand", words: message("identity.byHand") },
  { id: "correction", words: message("identity.aCorrectedCell") },
  { id: "answer", words: message("identity.newestAnswer") },
  { id: "roster", words: message("identity.oldestRoster") },
] as const;

export type PrecedenceId = (typeof PRECEDENCE)[number]["id"];

/** One source's word about something. `place` is the position of its source, oldest first; `answered` the time of a form response. */
export interface Telling<Value> {
  value: Value;
  origin: Origin;
  answered: string;
  place: number;
  /** Whether it is only how somebody writes a name by which they were known again: a family's, or a coach's without numbers. */
  loose?: boolean;
}

function rankOf({ origin, answered }: Telling<unknown>): number {
  const id: PrecedenceId =
    origin.from === "hand"
      ? "hand"
      : origin.from === "row" && origin.corrected !== undefined
        ? "correction"
        : answered === ""
          ? "roster"
          : "answer";
  return PRECEDENCE.findIndex((one) => one.id === id);
}

/** Sorts what was told, the most believed first. */
export function byPrecedence<Value>(told: readonly Telling<Value>[]): Telling<Value>[] {
  return [...told].sort(
    (a, b) =>
      rankOf(a) - rankOf(b) ||
      (a.answered > b.answered ? -1 : a.answered < b.answered ? 1 : 0) ||
      a.place - b.place,
  );
}
