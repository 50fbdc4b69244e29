import { message, written } from "@amigo/language/message";
import * as z from "zod";
import { knownPerson, personIn } from "../factIndex";
import type { Kind } from "./kind";
import { ofSomebody } from "./ofSomebody";

/** What a further column of a sheet says of a student; the column's title is the ref. */
export const detail: Kind<"detail", string, string> = {
  kind: "detail",
  about: "person",
  value: z.string(),
  addTo: (index, { subject, ref, value }) => {
    personIn(index, subject).details.set(ref, value);
  },
  removeFrom: (index, { subject, ref }) => {
    knownPerson(index, subject)?.details.delete(ref);
  },
  needs: ofSomebody,
  called: ({ subject, ref }, name) =>
    message("facts.whose", { who: name(subject), what: written(ref) }),
  personal: "text",
  blank: "",
};
