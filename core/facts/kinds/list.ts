import { message } from "@amigo/language/message";
import * as z from "zod";
import { listKeyParts } from "../../lists/listKey";
import { POINT_WORDS, type ListPoint } from "../../lists/listPoint";
import { dropIn, setIn } from "../factIndex";
import type { Kind } from "./kind";
import { ofNextList } from "./ofList";

/** A list is as somebody wants it in one point, which is the ref. */
export const list: Kind<"list", ListPoint, string> = {
  kind: "list",
  about: "list",
  value: z.string(),
  addTo: (index, { subject, ref, value }) => {
    setIn(index.lists, subject, ref, value);
  },
  removeFrom: (index, { subject, ref }) => {
    dropIn(index.lists, subject, ref);
  },
  isKeptByHand: () => true,
  // The next season names the lists of its recipes again.
  nextSeason: (fact, crossing) =>
    fact.ref === "name" && listKeyParts(fact.subject) !== undefined
      ? undefined
      : ofNextList(fact, crossing),
  called: ({ subject, ref }, name) =>
    message("facts.whose", { who: name(subject), what: POINT_WORDS[ref] }),
};
