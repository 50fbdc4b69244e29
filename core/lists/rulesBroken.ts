import type { Message } from "@amigo/language/message";
import type { FactIndex } from "../facts/indexFacts";
import { nameKey } from "../identity/sameName";
import { brokenInvariants } from "../posting/invariants/allInvariants";
import type { Invariant } from "../posting/invariants/invariant";
import { splitName } from "../sheet/splitName";
import type { WantedList } from "./wantedLists";

/** What is wrong between the rules of a list, as the house wants it. */
export function rulesBroken(
  list: WantedList,
  index: FactIndex,
  insideDomain: string,
): { invariant: Invariant; sentence: Message }[] {
  return brokenInvariants(
    { kind: list.kind, rules: list.rules, hasLead: hasLead(list, index), insideDomain },
    index.invariantsOff,
  );
}

/** Whether somebody with an account leads a list: whoever is named, or the coach of its class by name. */
export function hasLead(
  { leads, cohort }: Pick<WantedList, "leads" | "cohort">,
  index: FactIndex,
): boolean {
  if (leads !== "coach")
    return leads.split(" ").some((id) => index.people.get(id)?.role === "staff");
  const coach = index.cohorts.get(cohort ?? "")?.coach ?? "";
  if (coach === "") return false;
  const wanted = nameKey(splitName(coach));
  for (const person of index.people.values())
    if (person.role === "staff" && nameKey(person) === wanted) return true;
  return false;
}
