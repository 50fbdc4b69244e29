import { counted } from "../../text/sentence";
import type { Guard } from "./guard";

/** A list for inside addresses only would gain outside ones. */
export const outsideOnInside: Guard = {
  id: "outside-on-inside",
  check: ({ lists }) => lists
    .filter(({ insideOnly, outsideJoins }) => insideOnly && outsideJoins > 0)
    .map(({ key, name, outsideJoins }) => ({ id: `outside-on-inside ${key}`, about: name, count: outsideJoins, sentence: `is for addresses inside the house, and would gain ${counted(outsideJoins, "outside address", "outside addresses")}.` })),
};
