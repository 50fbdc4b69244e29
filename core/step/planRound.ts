import { factKey, type Fact, type Facts } from "../facts/fact";
import { addToIndex, indexFacts, removeFromIndex, type FactIndex } from "../facts/indexFacts";
import type { Cause } from "./cause";
import { addMember, KEPT, keptSide, listsByCohort, membersOf, placesOf, removeMember, type ListToFill, type Members } from "./listMembers";

/** What a cause does to one list: an address joins, leaves, or is put in place of another. */
export interface Change {
  list: string;
  kind: "joins" | "leaves" | "replaced";
  address: string;
  /** The address that stood there before, for `replaced`. */
  instead: string | undefined;
  person: string;
}

/** The causes of a round with the changes of each, in the order in which they are counted. */
export interface RoundPlan {
  changes: Map<string, Change[]>;
  /** The members that each list would have once all causes are accepted. */
  members: Members;
  /** People and cohorts once all causes are accepted. */
  index: FactIndex;
}

/**
 * Works out what each cause does to each list. Causes are counted one after another, so that an
 * address with two reasons leaves with the second of them and joins with the first, and the sum of all
 * changes is just the difference between before and after.
 *
 * @param causes in the order in which they are to be counted: accepted ones first
 */
export function planRound(stand: Facts, causes: readonly Cause[], lists: readonly ListToFill[]): RoundPlan {
  const index = indexFacts(stand);
  const by = listsByCohort(lists);
  const members = membersOf(index, by);
  const changes = new Map<string, Change[]>();
  /** The facts that causes have brought so far; what stood before is in `stand`. */
  const brought = new Map<string, Fact>();
  const gone = new Set<string>();
  const byId = new Map(lists.flatMap((list) => (list.id === undefined ? [] : [[list.id, list] as const])));
  for (const cause of causes) {
    const touched = peopleTouched(cause, index);
    const kept = keptTouched(cause, byId);
    const before = placesOn(touched, kept, index, by);
    for (const fact of cause.removes) {
      const key = factKey(fact);
      brought.delete(key);
      gone.add(key);
      removeFromIndex(index, fact);
    }
    for (const fact of cause.adds) {
      const key = factKey(fact);
      const old = brought.get(key) ?? (gone.has(key) ? undefined : stand.get(key));
      if (old !== undefined) removeOld(index, old);
      brought.set(key, fact);
      addToIndex(index, fact);
    }
    const after = placesOn(touched, kept, index, by);
    changes.set(cause.key, compare(before, after, members));
  }
  return { changes, members, index };
}

/** Everybody whose lists a cause can change: its people, and everybody tied to them. */
function peopleTouched(cause: Cause, index: FactIndex): Set<string> {
  const touched = new Set<string>();
  for (const fact of [...cause.adds, ...cause.removes]) {
    if (fact.kind === "cohort") continue;
    if (fact.kind === "kept") {
      for (const person of index.people.values()) if (person.addresses.has(fact.ref)) touched.add(person.id);
      continue;
    }
    touched.add(fact.subject);
    if (fact.kind === "tie") touched.add(fact.ref);
  }
  for (const id of [...touched]) for (const other of index.people.get(id)?.ties.keys() ?? []) touched.add(other);
  return touched;
}

/** The lists on or off which a cause keeps addresses. */
function keptTouched(cause: Cause, byId: ReadonlyMap<string, ListToFill>): { list: ListToFill; address: string }[] {
  return [...cause.adds, ...cause.removes].flatMap((fact) => {
    const list = fact.kind === "kept" ? byId.get(fact.subject) : undefined;
    return list === undefined ? [] : [{ list, address: fact.ref }];
  });
}

/** A presence is undone before a new value comes; a role is only overwritten, since ties hang on it. */
function removeOld(index: FactIndex, old: Fact): void {
  if (old.kind !== "student" && old.kind !== "guardian" && old.kind !== "tie") removeFromIndex(index, old);
}

type Presence = Map<string, { list: string; address: string; person: string }>;

function placesOn(people: ReadonlySet<string>, kept: readonly { list: ListToFill; address: string }[], index: FactIndex, by: ReturnType<typeof listsByCohort>): Presence {
  const found: Presence = new Map();
  for (const { list, address } of kept) if (keptSide(list, address, index) === "on") found.set(`${list.key}|${address}|${KEPT}`, { list: list.key, address, person: KEPT });
  for (const id of people) {
    const person = index.people.get(id);
    if (person === undefined) continue;
    for (const { list, addresses } of placesOf(person, index, by)) {
      for (const address of addresses) found.set(`${list.key}|${address}|${id}`, { list: list.key, address, person: id });
    }
  }
  return found;
}

function compare(before: Presence, after: Presence, members: Members): Change[] {
  const joins: Change[] = [];
  const leaves: Change[] = [];
  for (const [key, { list, address, person }] of before) {
    if (!after.has(key) && removeMember(members, list, address, person)) leaves.push({ list, kind: "leaves", address, instead: undefined, person });
  }
  for (const [key, { list, address, person }] of after) {
    if (!before.has(key) && addMember(members, list, address, person)) joins.push({ list, kind: "joins", address, instead: undefined, person });
  }
  const changes: Change[] = [];
  for (const join of joins) {
    const same = leaves.findIndex((leave) => leave.list === join.list && leave.address === join.address);
    if (same >= 0) { leaves.splice(same, 1); continue; }
    const twin = leaves.findIndex((leave) => leave.list === join.list && leave.person === join.person);
    const [left] = twin >= 0 ? leaves.splice(twin, 1) : [];
    changes.push(left === undefined ? join : { ...join, kind: "replaced", instead: left.address });
  }
  return [...changes, ...leaves].sort((a, b) => (a.list < b.list ? -1 : a.list > b.list ? 1 : a.address < b.address ? -1 : 1));
}
