import { message } from "@amigo/language/message";
import type { Guard } from "./guard";

/** A list would gain outside addresses that its rules do not allow. */
export const outsideOnInside: Guard = {
  id: "outside-on-inside",
  check: ({ lists }) =>
    lists
      .filter(({ outsideJoins }) => outsideJoins > 0)
      .map(({ key, name, outsideJoins }) => ({
        id: `outside-on-inside ${key}`,
        about: name,
        count: outsideJoins,
        sentence: message("step.outsideOnInside", { count: outsideJoins }),
      })),
};
