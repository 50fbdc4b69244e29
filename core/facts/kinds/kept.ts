import { message } from "@amigo/language/message";
import * as z from "zod";
import { dropIn, setIn } from "../factIndex";
import type { Kind } from "./kind";
import { isOver, ofNextList } from "./ofList";
import type { KeptValue } from "../../lists/kept";

/** An address, which is the ref, is always or never on a list. */
export const kept: Kind<"kept", string, KeptValue> = {
  kind: "kept",
  about: "list",
  value: z.object({
    side: z.enum(["on", "off"]),
    reason: z.string(),
    by: z.string(),
    lastDay: z.string(),
  }),
  addTo: (index, { subject, ref, value }) => {
    setIn(index.kept, subject, ref, value);
  },
  removeFrom: (index, { subject, ref }) => {
    dropIn(index.kept, subject, ref);
  },
  isKeptByHand: ({ value }, today) => !isOver(value.lastDay, today),
  nextSeason: (fact, crossing) =>
    isOver(fact.value.lastDay, crossing.today) ? undefined : ofNextList(fact, crossing),
  called: ({ ref, value }) => message("facts.keptOnAList", { address: ref, side: value.side }),
};
