import { message } from "@amigo/language/message";
import * as z from "zod";
import type { Exemption } from "../../posting/houseRules";
import { dropIn, setIn } from "../factIndex";
import type { Kind } from "./kind";
import { isOver, ofNextList } from "./ofList";

/** What somebody has allowed a list beyond the house's rules, by the rule, or `convention` for its name. */
export const exemption: Kind<"exemption", string, Exemption> = {
  kind: "exemption",
  about: "list",
  value: z.object({ allowed: z.string(), until: z.string(), by: z.string() }),
  addTo: (index, { subject, ref, value }) => {
    setIn(index.exemptions, subject, ref, value);
  },
  removeFrom: (index, { subject, ref }) => {
    dropIn(index.exemptions, subject, ref);
  },
  isKeptByHand: ({ value }, today) => !isOver(value.until, today),
  nextSeason: (fact, crossing) =>
    isOver(fact.value.until, crossing.today) ? undefined : ofNextList(fact, crossing),
  called: ({ subject }, name) =>
    message("facts.whose", { who: name(subject), what: message("facts.exemption") }),
};
