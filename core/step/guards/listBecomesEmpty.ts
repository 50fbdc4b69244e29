import { message } from "@amigo/language/message";
import type { Guard } from "./guard";

/** A list that has members would have none. */
export const listBecomesEmpty: Guard = {
  id: "list-becomes-empty",
  check: ({ lists }) =>
    lists
      .filter(({ before, leaves, joins }) => before > 0 && before - leaves + joins <= 0)
      .map(({ key, name, before }) => ({
        id: `list-becomes-empty ${key}`,
        about: name,
        count: before,
        sentence: message("step.listBecomesEmpty", { before }),
      })),
};
