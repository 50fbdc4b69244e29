import { message } from "@amigo/language/message";
import * as z from "zod";
import type { Kind } from "./kind";

/** The short form of a name, whose folded text the subject holds: `short:trapeze two`. */
export const short: Kind<"short", "", string> = {
  kind: "short",
  about: "house",
  value: z.string(),
  addTo: (index, { subject, value }) => {
    index.shorts.set(nameIn(subject), value);
  },
  removeFrom: (index, { subject }) => {
    index.shorts.delete(nameIn(subject));
  },
  isKeptByHand: () => true,
  called: ({ subject }) => message("facts.shortForm", { name: nameIn(subject) }),
};

function nameIn(subject: string): string {
  return subject.slice("short:".length);
}
