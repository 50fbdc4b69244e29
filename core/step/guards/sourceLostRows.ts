import type { Guard } from "./guard";

const SHARE = 0.1;

/** A source has more than a tenth fewer rows than at its last reading. */
export const sourceLostRows: Guard = {
  id: "source-lost-rows",
  check: ({ sources }) => sources
    .filter(({ rowsBefore, rowsNow }) => rowsBefore - rowsNow > rowsBefore * SHARE)
    .map(({ name, rowsBefore, rowsNow }) => ({ id: `source-lost-rows ${name}`, about: name, count: rowsBefore - rowsNow, sentence: `has ${rowsNow} rows; at its last reading it had ${rowsBefore}. Is it the whole sheet?` })),
};
