import { message } from "@amigo/language/message";
import * as z from "zod";
import type { Bound } from "../../posting/houseRules";
import { ALL_RULES } from "../../posting/rules/allRules";
import type { RuleId } from "../../posting/rules/rule";
import type { Kind } from "./kind";

/** What the house allows of a posting rule for lists of one kind: `guardians outside`. The subject is `house`. */
export const bound: Kind<"bound", string, Bound> = {
  kind: "bound",
  about: "house",
  value: z.object({ allowed: z.string(), usual: z.string() }),
  addTo: (index, { ref, value }) => {
    index.bounds.set(ref, value);
  },
  removeFrom: (index, { ref }) => {
    index.bounds.delete(ref);
  },
  isKeptByHand: () => true,
  called: ({ ref }) => {
    const rule = ref.slice(ref.indexOf(" ") + 1) as RuleId;
    return message("facts.houseRule", { rule: ALL_RULES[rule].words });
  },
};
