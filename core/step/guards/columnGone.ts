import { each, message } from "@amigo/language/message";
import type { Guard } from "./guard";

/** A column that was needed is gone from a source. */
export const columnGone: Guard = {
  id: "column-gone",
  check: ({ sources }) =>
    sources
      .filter(({ gone }) => gone.length > 0)
      .map(({ name, gone }) => ({
        id: `column-gone ${name}`,
        about: name,
        count: gone.length,
        sentence: message("step.columnGone", { count: gone.length, columns: each(gone) }),
      })),
};
