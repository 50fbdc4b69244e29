/*
 * What a fact is about is named by its subject. How subjects are made up is known here alone:
 *
 * - `account:ID` somebody on the staff with an account, `t-…` one whom only sheets name
 * - `s-…` a student, `g-…` a guardian
 * - `class:NAME`, `team:NAME`, `committee:NAME` a cohort; `site:NAME`, `level:NAME` a place that lists can be of
 */

/** What a list can be of, beside the house. */
export type PlaceKind = "class" | "team" | "committee" | "site" | "level";

const PLACES: readonly string[] = ["class", "team", "committee", "site", "level"];
const ACCOUNT = "account:";

/** The id of a person on the staff, whose facts come with an account and from no sheet. */
export function staffId(account: string): string {
  return `${ACCOUNT}${account}`;
}

/** Whether somebody on the staff has an account, and isn't known from sheets alone. */
export function hasAccount(person: string): boolean {
  return person.startsWith(ACCOUNT);
}

/** Whether a subject is a student. */
export function isStudent(subject: string): boolean {
  return subject.startsWith("s-");
}

/** Whether a subject is a guardian. */
export function isGuardian(subject: string): boolean {
  return subject.startsWith("g-");
}

/** Returns what a key is of: a class, team, committee, site or level; undefined for anything else. */
export function placeKind(key: string): PlaceKind | undefined {
  const kind = key.slice(0, key.indexOf(":"));
  return PLACES.includes(kind) ? (kind as PlaceKind) : undefined;
}
