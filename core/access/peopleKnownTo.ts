import type { Audience } from "../audience/audience";
import { whoBelongs } from "../audience/whoBelongs";
import type { FactIndex, Person } from "../facts/factIndex";

/** What decides whom an account may know of. */
export interface Asker {
  /** A coordinator knows everybody. */
  everybody: boolean;
  /** The site that a site coordinator looks after; empty for none. */
  site: string;
  /** Who belongs on the lists whose members the account may see. */
  audiences: readonly Audience[];
}

/**
 * Returns the people whom an account may know of: the one rule that everything asks which shows, counts, completes, previews
 * or matches people. Everybody knows the staff; a site coordinator the students of the site and its classes, with their
 * guardians; whoever sees the members of a list, those. With a guardian go the children whose guardian they are.
 */
export function peopleKnownTo(
  { everybody, site, audiences }: Asker,
  index: FactIndex,
): ReadonlyMap<string, Person> {
  if (everybody) return index.people;
  const known = new Map<string, Person>();
  for (const person of index.people.values())
    if (person.role === "staff" || (site !== "" && isOfSite(person, site, index)))
      known.set(person.id, person);
  for (const audience of audiences)
    for (const { person } of whoBelongs(audience, index)) known.set(person.id, person);
  for (const person of [...known.values()]) {
    if (person.role !== "guardian") continue;
    for (const id of person.ties.keys()) {
      const child = index.people.get(id);
      if (child !== undefined) known.set(id, child);
    }
  }
  return known;
}

/** Whether a student is of a site, by their own or by a class, or somebody is the guardian of one. */
function isOfSite(person: Person, site: string, index: FactIndex): boolean {
  if (person.role === "guardian")
    return [...person.ties.keys()].some((id) => {
      const child = index.people.get(id);
      return child?.role === "student" && isOfSite(child, site, index);
    });
  return (
    person.role === "student" &&
    (person.site === site ||
      [...person.cohorts].some((key) => index.cohorts.get(key)?.site === site))
  );
}
