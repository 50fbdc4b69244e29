import type { Fact, Facts } from "../facts/fact";

/** Takes what is kept on and off lists along into what the sources say, but for what is past its last day. */
export function carryKept(stand: Facts, derived: Facts, today: string): Facts {
  const kept = [...stand].filter(([, fact]) => isCarried(fact, today));
  if (kept.length === 0) return derived;
  const facts = new Map(derived);
  for (const [key, fact] of kept) facts.set(key, fact);
  return facts;
}

function isCarried(fact: Fact, today: string): boolean {
  return fact.kind === "kept" && (fact.value.lastDay === "" || fact.value.lastDay >= today);
}
