import { message } from "@amigo/language/message";
import * as z from "zod";
import { wholeName, type PersonName } from "../../sheet/splitName";
import { fold } from "../../text/fold";
import { knownPerson, personIn } from "../factIndex";
import type { Kind } from "./kind";
import { ofSomebody } from "./ofSomebody";

/** What somebody is called. */
export const name: Kind<"name", "", PersonName> = {
  kind: "name",
  about: "person",
  value: z.object({ given: z.string(), family: z.string() }),
  addTo: (index, { subject, value: { given, family } }) => {
    Object.assign(personIn(index, subject), { given, family });
  },
  removeFrom: (index, { subject }) => {
    const person = knownPerson(index, subject);
    if (person !== undefined) Object.assign(person, { given: "", family: "" });
  },
  needs: ofSomebody,
  words: ({ value }) => ({
    begins: message("facts.isCalled", { name: wholeName(value) }),
    ends: message("facts.wasCalled", { name: wholeName(value) }),
  }),
  called: ({ subject }, nameOf) =>
    message("facts.whose", { who: nameOf(subject), what: message("facts.name") }),
  personal: "name",
  blank: { given: "somebody", family: "removed" },
  search: ({ value }) => fold(wholeName(value)),
};
