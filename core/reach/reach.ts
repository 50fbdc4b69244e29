import type { FactIndex, Person } from "../facts/factIndex";

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
