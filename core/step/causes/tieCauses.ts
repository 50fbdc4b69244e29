import { message, type CoreTextId } from "@amigo/language/message";
import { factKey, type Fact, type Facts } from "../../facts/fact";
import { nameOf, type FactIndex } from "../../facts/factIndex";
import type { Cause, CauseKind } from "../cause";
import { groupOf, stableKey } from "./called";
import { factsOfGuardian } from "./guardianFacts";

export interface Ties {
  added: Fact[];
  removed: Fact[];
}

export function tiesByStudent(
  added: Map<string, Fact[]>,
  removed: Map<string, Fact[]>,
): Map<string, Ties> {
  const ties = new Map<string, Ties>();
  const collect = (facts: Map<string, Fact[]>, side: keyof Ties): void => {
    for (const list of facts.values()) {
      for (const fact of list) {
        if (fact.kind !== "tie") continue;
        const entry = ties.get(fact.ref) ?? { added: [], removed: [] };
        entry[side].push(fact);
        ties.set(fact.ref, entry);
      }
    }
  };
  collect(added, "added");
  collect(removed, "removed");
  return ties;
}

export function tieCauses(
  student: string,
  ties: Ties,
  was: FactIndex,
  is: FactIndex,
  after: Facts,
  before: Facts,
): Cause[] {
  const child = is.people.get(student);
  if (child === undefined) return [];
  const group = groupOf(child, is);
  const causes: Cause[] = [];
  const make = (
    kind: CauseKind,
    fact: Fact,
    index: FactIndex,
    facts: Pick<Cause, "adds" | "removes">,
    how: { detail: CoreTextId; sentence: CoreTextId; is?: string },
  ): void => {
    const name = nameOf(index.people.get(fact.subject));
    const values = { student: nameOf(child), ...(how.is === undefined ? {} : { is: how.is }) };
    causes.push({
      key: `${kind} ${stableKey(child)} ${fact.subject}`,
      kind,
      subject: fact.subject,
      title: name,
      detail: message(how.detail, values),
      sentence: message(how.sentence, { ...values, name }),
      group,
      ...facts,
    });
  };
  for (const fact of ties.added) {
    const old = before.get(factKey(fact));
    if (old !== undefined)
      make(
        "detail",
        fact,
        is,
        { adds: [fact], removes: [old] },
        {
          detail: "step.tie",
          sentence: "step.tieSentence",
          is: fact.kind === "tie" && fact.value !== "" ? fact.value.toLowerCase() : "guardian",
        },
      );
    else
      make(
        "guardian-added",
        fact,
        is,
        {
          adds: [
            fact,
            ...factsOfGuardian(fact.subject, after).filter(
              (guardian) => !before.has(factKey(guardian)),
            ),
          ],
          removes: [],
        },
        { detail: "step.guardianAdded", sentence: "step.guardianAddedSentence" },
      );
  }
  for (const fact of ties.removed)
    if (!after.has(factKey(fact)))
      make(
        "guardian-gone",
        fact,
        was,
        { adds: [], removes: [fact] },
        { detail: "step.guardianGone", sentence: "step.guardianGoneSentence" },
      );
  return causes;
}
