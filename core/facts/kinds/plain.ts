import { message, type Message } from "@amigo/language/message";
import * as z from "zod";
import { fold } from "../../text/fold";
import { knownPerson, personIn } from "../factIndex";
import type { Kind } from "./kind";
import { ofSomebody } from "./ofSomebody";

type Plain = "number" | "level" | "site";

/** Returns a kind of fact that is one text of a person. */
function plain<Name extends Plain>(kind: Name, what: Message): Kind<Name, "", string> {
  return {
    kind,
    about: "person",
    value: z.string(),
    addTo: (index, { subject, value }) => {
      personIn(index, subject)[kind] = value;
    },
    removeFrom: (index, { subject }) => {
      const person = knownPerson(index, subject);
      if (person !== undefined) person[kind] = "";
    },
    needs: ofSomebody,
    words: ({ value }) => ({
      begins: message("facts.has", { what, value }),
      ends: message("facts.hasNoLonger", { what, value }),
    }),
    called: ({ subject }, name) => message("facts.whose", { who: name(subject), what }),
  };
}

/** A student's number in the school's books. */
export const number: Kind<"number", "", string> = {
  ...plain("number", message("facts.number")),
  personal: "number",
  blank: "",
  search: ({ value }) => fold(value),
};

/** The level, grade or year of a student. */
export const level: Kind<"level", "", string> = {
  ...plain("level", message("facts.level")),
  nextSeason: (fact, crossing) => {
    const value = crossing.levelAfter(fact.value);
    return value === undefined
      ? fact
      : { ...fact, value, origin: { from: "rule", rule: "carried over" } };
  },
  personal: "text",
  blank: "",
};

/** The site at which somebody is. */
export const site: Kind<"site", "", string> = plain("site", message("facts.site"));
