import { message, written } from "@amigo/language/message";
import * as z from "zod";
import { knownPerson, personIn } from "../factIndex";
import type { Kind } from "./kind";
import { ofSomebody } from "./ofSomebody";

/** A guardian belongs to a student, whose id is the ref; the value is the relationship as the sheet names it. */
export const tie: Kind<"tie", string, string> = {
  kind: "tie",
  about: "person",
  value: z.string(),
  addTo: (index, { subject, ref, value }) => {
    personIn(index, subject).ties.set(ref, value);
    personIn(index, ref).ties.set(subject, value);
  },
  removeFrom: (index, { subject, ref }) => {
    knownPerson(index, subject)?.ties.delete(ref);
    knownPerson(index, ref)?.ties.delete(subject);
  },
  needs: (fact) => [...ofSomebody(fact), { subject: fact.ref, kinds: ["student"] }],
  words: ({ subject, ref, value }, page, name) => {
    const is = value === "" ? message("facts.guardian") : written(value.toLowerCase());
    return subject === page
      ? {
          begins: message("facts.isOf", { is, other: name(ref) }),
          ends: message("facts.isNoLongerOf", { is, other: name(ref) }),
        }
      : {
          begins: message("facts.hasA", { is, other: name(subject) }),
          ends: message("facts.hasNoA", { is, other: name(subject) }),
        };
  },
  called: ({ subject, ref }, name) =>
    message("facts.asGuardianOf", { who: name(subject), student: name(ref) }),
};
