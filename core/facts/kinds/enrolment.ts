import { message } from "@amigo/language/message";
import * as z from "zod";
import { knownPerson, personIn } from "../factIndex";
import { toChange } from "../layeredMap";
import type { Kind } from "./kind";
import { ofSomebody } from "./ofSomebody";

/** A student is in a class, team or committee, whose key is the ref. */
export const enrolment: Kind<"enrolment", string, ""> = {
  kind: "enrolment",
  about: "person",
  value: z.literal(""),
  addTo: (index, { subject, ref }) => {
    personIn(index, subject).cohorts.add(ref);
    const enrolled = toChange(index.enrolled, ref, (students) => new Set(students));
    if (enrolled === undefined) index.enrolled.set(ref, new Set([subject]));
    else enrolled.add(subject);
  },
  removeFrom: (index, { subject, ref }) => {
    knownPerson(index, subject)?.cohorts.delete(ref);
    const enrolled = toChange(index.enrolled, ref, (students) => new Set(students));
    enrolled?.delete(subject);
    if (enrolled?.size === 0) index.enrolled.delete(ref);
  },
  needs: (fact) => [...ofSomebody(fact), { subject: fact.ref, kinds: ["cohort"] }],
  nextSeason: (fact, crossing) => {
    const ref = crossing.cohortAfter(fact.ref);
    return ref === undefined
      ? undefined
      : { ...fact, ref, origin: { from: "rule", rule: "carried over" } };
  },
  words: ({ ref }, _page, name) => ({
    begins: message("facts.isIn", { class: name(ref) }),
    ends: message("facts.isNoLongerIn", { class: name(ref) }),
  }),
  called: ({ subject, ref }, name) =>
    message("facts.personInClass", { who: name(subject), class: name(ref) }),
};
