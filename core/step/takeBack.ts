import { factKey, keyOf, sameValue, type Fact, type FactKind, type Facts } from "../facts/fact";
import { kindOf } from "../facts/kinds/allKinds";
import { changeable } from "../facts/layeredMap";
import type { Need } from "../facts/kinds/kind";

/** What a round began and ended, and of it what no longer stands as that round left it. */
export interface TakenBack {
  /** The facts once the round is undone. */
  facts: Map<string, Fact>;
  /** What is left alone, since it has changed after that round. */
  left: { fact: Fact; why: "changed since" | "has no owner now" }[];
}

/**
 * Undoes a past round against the facts as they stand today: what it began ends where it still stands
 * as it began, what it ended begins again where nothing has come in its place. What others have built on
 * since is left alone and named.
 *
 * @param began facts that began in that round
 * @param ended facts that ended in that round
 */
export function takeBack(stand: Facts, began: readonly Fact[], ended: readonly Fact[]): TakenBack {
  const facts = changeable(stand, began.length + ended.length);
  const left: TakenBack["left"] = [];
  const back = new Map(ended.map((fact) => [factKey(fact), fact]));
  for (const fact of began) {
    const key = factKey(fact);
    const now = stand.get(key);
    // The name that a list got when it was made stays its own, for the day on which it is wanted again.
    if (fact.kind === "list" && fact.origin.from === "rule") continue;
    if (now !== undefined && sameValue(now.value, fact.value)) facts.delete(key);
    else {
      left.push({ fact, why: "changed since" });
      back.delete(key);
    }
  }
  for (const [key, fact] of back) {
    if (facts.has(key)) {
      if (!sameValue(facts.get(key)?.value ?? "", fact.value))
        left.push({ fact, why: "changed since" });
    } else facts.set(key, fact);
  }
  return { facts: onlyOwned(facts, stand, left), left };
}

/** A person or class on whom something newer hangs stays; what would hang on nobody is not brought back. */
function onlyOwned(
  facts: Map<string, Fact>,
  stand: Facts,
  left: TakenBack["left"],
): Map<string, Fact> {
  const keep = (key: string): void => {
    const fact = stand.get(key);
    if (fact === undefined || facts.has(key)) return;
    facts.set(key, fact);
    left.push({ fact, why: "changed since" });
  };
  const keysOf = ({ subject, kinds }: Need): string[] =>
    kinds.map((kind) => keyOf(subject, kind as FactKind));
  const unmet = (fact: Fact): Need[] =>
    (kindOf(fact).needs?.(fact) ?? []).filter(
      (need) => !keysOf(need).some((key) => facts.has(key)),
    );
  for (const fact of [...facts.values()]) {
    if (!stand.has(factKey(fact))) continue;
    for (const need of unmet(fact))
      for (const key of [
        ...keysOf(need),
        keyOf(need.subject, "name"),
        keyOf(need.subject, "number"),
      ])
        keep(key);
  }
  for (const [key, fact] of [...facts]) {
    if (unmet(fact).length === 0) continue;
    facts.delete(key);
    left.push({ fact, why: "has no owner now" });
  }
  return facts;
}
