import { each, message } from "@amigo/language/message";
import { cohortKey } from "../../facts/fact";
import type { Origin } from "../../facts/origin";
import { nameOf, type FactIndex } from "../../facts/factIndex";
import type { Question, SettledByHand, SettledFact } from "../question";
import type { CohortKind } from "../../facts/cohort";
import { question } from "./valueQuestion";

/** What one source says of a student's classes or teams. */
export interface TellingOfClasses {
  subject: string;
  kind: CohortKind;
  source: string;
  origin: Origin;
  /** Names by their folded form. */
  names: Map<string, string>;
}

/** Another source names a class that the first one does not. */
export function askAboutClasses(
  classes: ReadonlyMap<string, readonly TellingOfClasses[]>,
  settled: readonly SettledByHand[],
  index: () => FactIndex,
): Question[] {
  return [...classes.values()].flatMap(([first, ...others]) =>
    others.flatMap((other): Question[] => {
      if (first === undefined || first.kind !== "class") return [];
      const extra = [...other.names.keys()].filter((name) => !first.names.has(name));
      if (extra.length === 0) return [];
      const refs = (names: Iterable<string>) =>
        [...new Set(names)].map((name) => ({ ref: cohortKey("class", name), value: "" as const }));
      const settle = (names: Iterable<string>): SettledFact => ({
        subject: first.subject,
        kind: "enrolment",
        facts: refs(names),
      });
      return question(
        {
          key: `which classes ${first.subject} ${[...first.names.keys()].sort().join(", ")} | ${[...other.names.keys()].sort().join(", ")}`,
          kind: "which value",
          subject: first.subject,
          about: message("identity.classesBySource", {
            name: nameOf(index().people.get(first.subject)),
          }),
          sides: [first, other].map((telling) => ({
            title: each([...telling.names.values()]),
            lines: [],
            where: telling.origin,
          })),
          choices: [
            {
              id: "first",
              label: each([...first.names.values()]),
              settle: settle(first.names.keys()),
            },
            {
              id: "other",
              label: each([...other.names.values()]),
              settle: settle(other.names.keys()),
            },
            {
              id: "both",
              label: message("identity.allOf", { count: 2 }),
              settle: settle([...first.names.keys(), ...other.names.keys()]),
            },
          ],
          meanwhile: message("identity.olderClassesHold", {
            classes: each([...first.names.values()]),
            count: first.names.size,
          }),
        },
        settled,
      );
    }),
  );
}
