import { message } from "@amigo/language/message";
import type { Guard } from "./guard";

/** A source has more rows less than at its last reading than its limit, or the house's, allows. */
export const sourceLostRows: Guard = {
  id: "source-lost-rows",
  check: ({ sources, limits }) =>
    sources
      .filter(
        ({ rowsBefore, rowsNow, limits: sourceLimits }) =>
          rowsBefore - rowsNow > rowsBefore * (sourceLimits.sourceShare ?? limits.sourceShare),
      )
      .map(({ name, rowsBefore, rowsNow }) => ({
        id: `source-lost-rows ${name}`,
        about: name,
        count: rowsBefore - rowsNow,
        sentence: message("step.sourceLostRows", { now: rowsNow, before: rowsBefore }),
      })),
};
