import type { FactIndex, Person } from "../facts/factIndex";
import { madeFrom } from "../facts/indexFacts";

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

const UNREACHED = new WeakMap<
  FactIndex,
  { stopped: Stopped; students: ReadonlyMap<string, Unreached> }
>();

/** Returns the students who can't be reached, and why, by their ids; worked out once for an index that nobody changes any more. */
export function unreachedStudents(
  index: FactIndex,
  stopped: Stopped,
): ReadonlyMap<string, Unreached> {
  const known = UNREACHED.get(index);
  if (known !== undefined && isSameStopped(known.stopped, stopped)) return known.students;
  const students = new Map<string, Unreached>();
  for (const person of index.people.values()) {
    if (person.role !== "student") continue;
    const why = whyUnreached(person, index, stopped);
    if (why !== undefined) students.set(person.id, why);
  }
  if (madeFrom(index) !== undefined) UNREACHED.set(index, { stopped, students });
  return students;
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
