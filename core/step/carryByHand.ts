import { hasAccount, placeKind } from "../facts/subjects";
import { factKey, keyOf, type Fact, type Facts } from "../facts/fact";
import { kindOf } from "../facts/kinds/allKinds";

/**
 * Takes along into what the sources say what no source speaks of: recipes, lists, short forms and house rules, people on
 * the staff, what lists are allowed beyond the house rules and whoever is kept on and off lists (but for what is past its last day), and teams of the last season until a source has them.
 *
 * @param today a calendar date
 */
export function carryByHand(stand: Facts, derived: Facts, today: string): Facts {
  const facts = new Map(derived);
  const carried: Fact[] = [];
  for (const [key, fact] of stand) {
    if (isCarried(fact, today)) facts.set(key, fact);
    else if (
      fact.origin.from === "rule" &&
      fact.origin.rule === "carried over" &&
      !derived.has(key)
    )
      carried.push(fact);
  }
  if (carried.length > 0) carryTeams(carried, facts, derived);
  return facts;
}

function isCarried(fact: Fact, today: string): boolean {
  return kindOf(fact).isKeptByHand?.(fact, today) ?? hasAccount(fact.subject);
}

function carryTeams(carried: readonly Fact[], facts: Map<string, Fact>, derived: Facts): void {
  const isTeam = (key: string): boolean =>
    placeKind(key) === "team" || placeKind(key) === "committee";
  for (const fact of carried) {
    const team = fact.kind === "cohort" ? fact.subject : fact.kind === "enrolment" ? fact.ref : "";
    if (!isTeam(team) || derived.has(keyOf(team, "cohort"))) continue;
    if (fact.kind === "cohort" || derived.has(keyOf(fact.subject, "student")))
      facts.set(factKey(fact), fact);
  }
}
