import { keyOf, type Fact, type FactKind, type Facts } from "./fact";
import { factDifference, type FactDifference } from "./factDifference";
import { knownPerson, type FactIndex, type Person } from "./factIndex";
import { kindOf } from "./kinds/allKinds";
import { LayeredMap } from "./layeredMap";

/** Gathers facts by person and cohort. */
export function indexFacts(facts: Facts): FactIndex {
  const index: FactIndex = {
    people: new Map(),
    staff: new Set(),
    cohorts: new Map(),
    enrolled: new Map(),
    kept: new Map(),
    recipes: new Map(),
    lists: new Map(),
    aliases: new Map(),
    shorts: new Map(),
    bounds: new Map(),
    invariantsOff: new Set(),
    presets: new Map(),
    exemptions: new Map(),
  };
  for (const fact of facts.values()) addToIndex(index, fact);
  return index;
}

const SHARED = new WeakMap<Facts, FactIndex>();

/** How an index that nobody changes any more was made: from all facts, or from another such index by what differs. */
export type MadeFrom = { below: FactIndex; difference: FactDifference } | { below: undefined };

const MADE = new WeakMap<FactIndex, MadeFrom>();

/**
 * The index of facts that nobody changes any more, made once however many ask for it. Not to be changed. That of facts that are
 * layered on others is layered on theirs, and costs what differs.
 */
export function sharedIndex(facts: Facts): FactIndex {
  const known = SHARED.get(facts);
  if (known !== undefined) return known;
  if (!(facts instanceof LayeredMap)) return keep(facts, indexFacts(facts), { below: undefined });
  const below = facts.base as Facts;
  return shareIndexOver(below, facts as Facts, factDifference(below, facts as Facts));
}

/** From this share of the facts on, gathering all of them is less work than taking in what differs. */
const MANY = 0.2;

/** The same for facts of which most are others': where little differs, it's made from the others' index. */
export function indexFrom(
  before: Facts,
  facts: Facts,
  difference = factDifference(before, facts),
): FactIndex {
  const known = SHARED.get(facts);
  if (known !== undefined) return known;
  return difference.added.length + difference.removed.length > facts.size * MANY
    ? keep(facts, indexFacts(facts), { below: undefined })
    : shareIndexOver(before, facts, difference);
}

/** Takes over what was worked out for an index to one that was made from it. */
export type Renew = (below: FactIndex, index: FactIndex, difference: FactDifference) => void;

const RENEWERS: Renew[] = [];

/**
 * Has something called whenever an index is made from another one, so that what was worked out for that one needn't be again, where
 * what differs doesn't touch it.
 */
export function whenRenewed(renew: Renew): void {
  RENEWERS.push(renew);
}

/** Whether a difference has a fact of one of some kinds. */
export function touches({ added, removed }: FactDifference, kinds: ReadonlySet<FactKind>): boolean {
  return added.some(({ kind }) => kinds.has(kind)) || removed.some(({ kind }) => kinds.has(kind));
}

/**
 * The same for facts whose difference from others is known: it's made from the others' index.
 *
 * @param difference what differs between those below and the facts
 */
export function shareIndexOver(below: Facts, facts: Facts, difference: FactDifference): FactIndex {
  const index = sharedIndex(below);
  const renewed = renewedIndex(index, facts, difference);
  for (const renew of RENEWERS) renew(index, renewed, difference);
  const from = MADE.get(index);
  // Where nobody has asked how the one below was made, both steps count as one: else each would keep all before it.
  if (from?.below === undefined) return keep(facts, renewed, { below: index, difference });
  return keep(facts, renewed, {
    below: from.below,
    difference: {
      added: [...from.difference.added, ...difference.added],
      removed: [...from.difference.removed, ...difference.removed],
    },
  });
}

/** Gives facts the index of others that say the same, and differ only in where they come from. */
export function shareIndexWith(facts: Facts, others: Facts): void {
  SHARED.set(facts, sharedIndex(others));
}

/** Says of an index that it's no longer needed from which other one it was made, which can be forgotten then. */
export function forgetBelow(index: FactIndex): void {
  MADE.set(index, { below: undefined });
}

/** Returns how an index was made; undefined where it may still be changed. */
export function madeFrom(index: FactIndex): MadeFrom | undefined {
  return MADE.get(index);
}

/** Whether nobody changes an index any more. */
export function isShared(index: FactIndex): boolean {
  return MADE.has(index);
}

function keep(facts: Facts, index: FactIndex, from: MadeFrom): FactIndex {
  SHARED.set(facts, index);
  MADE.set(index, from);
  return index;
}

/** Returns an index that can be changed while the one below stays as it is. */
export function indexOver(below: FactIndex): FactIndex {
  return {
    people: new LayeredMap(below.people),
    staff: new Set(below.staff),
    cohorts: new LayeredMap(below.cohorts),
    enrolled: new LayeredMap(below.enrolled),
    kept: new LayeredMap(below.kept),
    recipes: new LayeredMap(below.recipes),
    lists: new LayeredMap(below.lists),
    aliases: new LayeredMap(below.aliases),
    shorts: new LayeredMap(below.shorts),
    bounds: new LayeredMap(below.bounds),
    invariantsOff: new Set(below.invariantsOff),
    presets: new LayeredMap(below.presets),
    exemptions: new LayeredMap(below.exemptions),
  };
}

/** Takes one more fact into an index; an older value of the same fact is replaced. */
export function addToIndex(index: FactIndex, fact: Fact): void {
  kindOf(fact).addTo(index, fact);
}

/** Takes a fact out of an index again. */
export function removeFromIndex(index: FactIndex, fact: Fact): void {
  kindOf(fact).removeFrom(index, fact);
}

const ROLES = ["student", "guardian", "staff"] as const;
/** What somebody has of each once, beside their role. */
const PLAIN = ["name", "number", "level", "site"] as const;

/** The index of facts, made from that of the facts below them. */
function renewedIndex(
  below: FactIndex,
  facts: Facts,
  { added, removed }: FactDifference,
): FactIndex {
  const index = indexOver(below);
  const people = new Set<string>();
  for (const fact of [...removed, ...added]) {
    if (kindOf(fact).about !== "person") continue;
    people.add(fact.subject);
    if (fact.kind === "tie") people.add(fact.ref);
  }
  // Ties hang on a person, so with the role alone nobody is taken out: who has nothing left is, in the end.
  for (const fact of removed) if (!isRole(fact)) removeFromIndex(index, fact);
  for (const fact of added) addToIndex(index, fact);
  for (const id of people) {
    const role = ROLES.find((one) => facts.has(keyOf(id, one)));
    if (role !== "staff") index.staff.delete(id);
    const person = index.people.get(id);
    if (person === undefined) continue;
    if (role === undefined && isBare(person, facts)) index.people.delete(id);
    else if (person.role !== (role ?? "guardian")) {
      const changed = knownPerson(index, id);
      if (changed !== undefined) changed.role = role ?? "guardian";
    }
  }
  return index;
}

function isRole({ kind }: Fact): boolean {
  return ROLES.some((role) => role === kind);
}

/** Whether no fact tells anything of somebody. */
function isBare({ id, cohorts, addresses, ties, details }: Person, facts: Facts): boolean {
  return (
    cohorts.size + addresses.size + ties.size + details.size === 0 &&
    !PLAIN.some((kind) => facts.has(keyOf(id, kind)))
  );
}
