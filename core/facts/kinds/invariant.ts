import { message } from "@amigo/language/message";
import * as z from "zod";
import type { Kind } from "./kind";

/** A rule about lists that the house does without. */
export const invariant: Kind<"invariant", string, "off"> = {
  kind: "invariant",
  about: "house",
  value: z.literal("off"),
  addTo: (index, { ref }) => {
    index.invariantsOff.add(ref);
  },
  removeFrom: (index, { ref }) => {
    index.invariantsOff.delete(ref);
  },
  isKeptByHand: () => true,
  called: () => message("facts.ruleLeftOut"),
};
