import { message } from "@amigo/language/message";
import * as z from "zod";
import type { Rules } from "../../posting/rules/rule";
import { someRules } from "./someRules";
import type { Kind } from "./kind";

/** Posting rules that the house has put together under a name. */
export interface PresetValue extends Partial<Rules> {
  name: string;
  what: string;
}

/** Posting rules of the house's own, by their id: `preset:homework`. */
export const preset: Kind<"preset", "", PresetValue> = {
  kind: "preset",
  about: "house",
  value: z.object({ name: z.string(), what: z.string(), ...someRules() }),
  addTo: (index, { subject, value: { name, what, ...rules } }) => {
    index.presets.set(idOf(subject), { name, what, rules });
  },
  removeFrom: (index, { subject }) => {
    index.presets.delete(idOf(subject));
  },
  isKeptByHand: () => true,
  called: ({ value }) => message("facts.preset", { name: value.name }),
};

function idOf(subject: string): string {
  return subject.slice("preset:".length);
}
