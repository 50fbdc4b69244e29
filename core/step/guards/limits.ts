import { message, type Message } from "@amigo/language/message";
/** What a round may do without a question. Shares are between 0 and 1. */
export interface Limits {
  /** A list may lose this share of its addresses … */
  listShare: number;
  /** … or this many, whichever is more. */
  listFew: number;
  /** A source may have this share of rows less than at its last reading. */
  sourceShare: number;
  /** One address may turn up for this many families. */
  familiesOfAddress: number;
}

/** The limits of a house that has set none. */
export const LIMITS: Limits = {
  listShare: 0.1,
  listFew: 3,
  sourceShare: 0.1,
  familiesOfAddress: 3,
};

/** A share in words, as a person would say it: `a tenth`, `15%`. */
export function shareInWords(share: number): Message {
  return message("step.share", {
    share: NAMED_SHARES.get(share) ?? "other",
    percent: Math.round(share * 1000) / 10,
  });
}

const NAMED_SHARES: ReadonlyMap<number, string> = new Map([
  [0.1, "tenth"],
  [0.2, "fifth"],
  [0.25, "quarter"],
  [0.5, "half"],
]);
