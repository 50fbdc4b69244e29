import { each, message } from "@amigo/language/message";
import type { Fact } from "../../facts/fact";
import type { FactIndex } from "../../facts/factIndex";
import type { Cause } from "../cause";
import { fieldChange, changeKey } from "./fieldChange";

export function cohortCauses(
  subject: string,
  adds: Fact[],
  removes: Fact[],
  was: FactIndex,
  is: FactIndex,
): Cause[] {
  const value = is.cohorts.get(subject) ?? was.cohorts.get(subject);
  if (value === undefined) return [];
  const old = was.cohorts.get(subject);
  const now = is.cohorts.get(subject);
  const base = {
    kind: "cohort" as const,
    subject,
    title: value.name,
    group: value.name,
    adds,
    removes,
  };
  if (old === undefined)
    return [
      {
        ...base,
        key: `cohort new ${subject}`,
        detail: message("step.newCohort", { kind: value.kind, site: value.site }),
        sentence: message("step.newCohortSentence", { name: value.name, kind: value.kind }),
      },
    ];
  if (now === undefined)
    return [
      {
        ...base,
        key: `cohort gone ${subject}`,
        detail: message("step.cohortGone"),
        sentence: message("step.cohortGoneSentence", { name: value.name }),
      },
    ];
  const what = (["name", "site", "coach"] as const)
    .filter((field) => old[field] !== now[field])
    .map((field) => ({ field, before: old[field], after: now[field] }));
  return [
    {
      ...base,
      key: `cohort ${subject} ${what.map(changeKey).join(", ")}`,
      detail: each(what.map(fieldChange), "comma"),
      sentence: message("step.about", {
        name: value.name,
        what: each(what.map(fieldChange), "comma"),
      }),
    },
  ];
}
