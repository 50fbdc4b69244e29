import type { FactIndex, Person } from "../facts/factIndex";
import type { FactDifference } from "../facts/factDifference";
import { isShared, whenRenewed } from "../facts/indexFacts";

/** Addresses to which mail has stopped, because it came back. */
export type Stopped = ReadonlySet<string>;

/** Why mail for a student arrives at none of the guardians. */
export type Unreached =
  | { why: "no guardian" }
  | { why: "no address"; guardians: Person[] }
  | { why: "mail comes back"; addresses: string[] };

/** How many students there are, and how many of them can be reached. */
export interface Reached {
  students: number;
  reached: number;
}

/** Whether the same addresses have stopped. */
export function isSameStopped(one: Stopped, other: Stopped): boolean {
  return (
    one === other || (one.size === other.size && [...one].every((address) => other.has(address)))
  );
}

/** Returns those of some addresses at which mail arrives, as far as is known. */
export function workingAddresses(addresses: Iterable<string>, stopped: Stopped): string[] {
  return [...addresses].filter((address) => !stopped.has(address));
}

/** Returns the guardians of a student, of those who are known. */
export function guardiansOf(student: Person, index: FactIndex): Person[] {
  return [...student.ties.keys()].flatMap((id) => index.people.get(id) ?? []);
}

/**
 * Returns why a student can't be reached; undefined where a guardian has an address that works. Every count and mark of families
 * that are reached asks this.
 */
export function whyUnreached(
  student: Person,
  index: FactIndex,
  stopped: Stopped,
): Unreached | undefined {
  const guardians = guardiansOf(student, index);
  if (guardians.length === 0) return { why: "no guardian" };
  const addresses = guardians.flatMap((guardian) => [...guardian.addresses]);
  if (addresses.length === 0) return { why: "no address", guardians };
  return workingAddresses(addresses, stopped).length === 0
    ? { why: "mail comes back", addresses }
    : undefined;
}

/** Whether a student can be reached. */
export function isReached(student: Person, index: FactIndex, stopped: Stopped): boolean {
  return whyUnreached(student, index, stopped) === undefined;
}

/** The students of an index, counted, and those who can't be reached. */
export interface WholeReach {
  students: number;
  /** Why, by the ids of the students. */
  unreached: ReadonlyMap<string, Unreached>;
}

const COUNTED = new WeakMap<FactIndex, { stopped: Stopped; reach: WholeReach }>();

/** Counts all students, with those who can't be reached and why; worked out once for an index that nobody changes any more. */
export function wholeReach(index: FactIndex, stopped: Stopped): WholeReach {
  const known = COUNTED.get(index);
  if (known !== undefined && isSameStopped(known.stopped, stopped)) return known.reach;
  const unreached = new Map<string, Unreached>();
  let students = 0;
  for (const person of index.people.values()) {
    if (person.role !== "student") continue;
    students++;
    const why = whyUnreached(person, index, stopped);
    if (why !== undefined) unreached.set(person.id, why);
  }
  const reach = { students, unreached };
  if (isShared(index)) COUNTED.set(index, { stopped, reach });
  return reach;
}

whenRenewed((below, index, difference) => {
  const known = COUNTED.get(below);
  if (known === undefined) return;
  const { stopped, reach } = known;
  let { students } = reach;
  const unreached = new Map(reach.unreached);
  for (const { id, role } of whoseReachCanDiffer(below, difference)) {
    unreached.delete(id);
    if (role === "student") students--;
  }
  for (const person of whoseReachCanDiffer(index, difference)) {
    if (person.role !== "student") continue;
    students++;
    const why = whyUnreached(person, index, stopped);
    if (why !== undefined) unreached.set(person.id, why);
  }
  COUNTED.set(index, { stopped, reach: { students, unreached } });
});

/** Returns the people of an index whose reach, classes or levels a difference can be about: its people, and those tied to them. */
export function whoseReachCanDiffer(
  index: FactIndex,
  { added, removed }: FactDifference,
): ReadonlySet<Person> {
  const found = new Set<Person>();
  for (const fact of [...added, ...removed])
    for (const id of fact.kind === "tie" ? [fact.subject, fact.ref] : [fact.subject]) {
      const person = index.people.get(id);
      if (person === undefined) continue;
      found.add(person);
      for (const tied of person.ties.keys()) {
        const other = index.people.get(tied);
        if (other !== undefined) found.add(other);
      }
    }
  return found;
}

/** Counts some students and those who can be reached. */
export function countReached(
  students: readonly Person[],
  index: FactIndex,
  stopped: Stopped,
): Reached {
  return {
    students: students.length,
    reached: students.filter((student) => isReached(student, index, stopped)).length,
  };
}
