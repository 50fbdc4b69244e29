import { message } from "@amigo/language/message";
import * as z from "zod";
import { listKeyParts } from "../../lists/listKey";
import { dropIn, setIn } from "../factIndex";
import type { Kind } from "./kind";
import { ofNextList } from "./ofList";

/** An old name of a list, which is the ref, and the last day on which it still leads there, as a calendar date. */
export const alias: Kind<"alias", string, string> = {
  kind: "alias",
  about: "list",
  value: z.string(),
  addTo: (index, { subject, ref, value }) => {
    setIn(index.aliases, subject, ref, value);
  },
  removeFrom: (index, { subject, ref }) => {
    dropIn(index.aliases, subject, ref);
  },
  isKeptByHand: () => true,
  nextSeason: (fact, crossing) =>
    listKeyParts(fact.subject) === undefined ? ofNextList(fact, crossing) : undefined,
  called: ({ subject, ref }, name) =>
    message("facts.whose", {
      who: name(subject),
      what: message("facts.oldName", { name: ref }),
    }),
};
