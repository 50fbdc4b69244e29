import { counted, joined } from "../../text/sentence";
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
        sentence: `no longer has ${counted(gone.length, "column")} that the last import had: ${joined(gone)}. People known only from there would leave.`,
      })),
};
