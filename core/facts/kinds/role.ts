import { message, written } from "@amigo/language/message";
import * as z from "zod";
import { personIn } from "../factIndex";
import type { FactWords, Kind } from "./kind";

type Role = "student" | "guardian" | "staff";

/** Returns the kind of fact that says what somebody is here. */
function role<Name extends Role>(kind: Name, words?: FactWords): Kind<Name, "", ""> {
  return {
    kind,
    about: "person",
    value: z.literal(""),
    addTo: (index, { subject }) => {
      personIn(index, subject).role = kind;
      if (kind === "staff") index.staff.add(subject);
      else index.staff.delete(subject);
    },
    removeFrom: (index, { subject }) => {
      index.people.delete(subject);
      index.staff.delete(subject);
    },
    ...(words === undefined ? {} : { words: () => words }),
    called: ({ subject }, name) => written(name(subject)),
  };
}

/** Somebody is a student. */
export const student = role("student", {
  begins: message("facts.joinedAsAStudent"),
  ends: message("facts.left"),
});

/** Somebody is a guardian of a student. */
export const guardian = role("guardian", {
  begins: message("facts.becameKnownAsAGuardian"),
  ends: message("facts.noLongerAGuardian"),
});

/** Somebody is on the staff. */
export const staff = role("staff");
