import { inOrder } from "@amigo/language/inOrder";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { isInside } from "@amigo/core/address/isInside";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/factIndex";
import { whyUnreached, type Stopped } from "@amigo/core/reach/reach";
import type { Family, PersonLine } from "@amigo/contract/people";
import { t } from "../texts/t";

/** What a family is shown with. */
export interface FamilyKnown {
  index: FactIndex;
  /** On how many lists each address is. */
  lists: ReadonlyMap<string, number>;
  insideDomains: readonly string[];
  stopped: Stopped;
}

/** The family of somebody: students first, then guardians, and what is missing in it. */
export function familyOf(
  first: Person,
  { index, lists, insideDomains, stopped }: FamilyKnown,
): Family {
  const members = new Set([first.id]);
  for (const id of members)
    for (const other of index.people.get(id)?.ties.keys() ?? []) members.add(other);
  const people = [...members]
    .flatMap((id) => index.people.get(id) ?? [])
    .sort((a, b) =>
      a.role === b.role ? inOrder(nameOf(a), nameOf(b)) : a.role === "student" ? -1 : 1,
    );
  const students = people.filter(({ role }) => role === "student");
  const missing = [
    ...students
      .filter(({ ties }) => ties.size === 0)
      .map((student) => t("people.hasNoGuardian", { student: nameOf(student) })),
    ...people
      .filter(({ role, addresses }) => role === "guardian" && addresses.size === 0)
      .map((guardian) => t("people.hasNoAddress", { guardian: nameOf(guardian) })),
    ...new Set(students.flatMap((student) => unreachedInWords(student, index, stopped))),
  ];
  const names = [...new Set(students.map(({ family }) => family).filter((name) => name !== ""))];
  return {
    id: students[0]?.id ?? first.id,
    name: say(each(names)) || nameOf(first),
    people: people.map((person) => lineOf(person, { index, lists, insideDomains })),
    missing,
  };
}

/** Says why a student can't be reached; a student without guardians is told of by name already. */
function unreachedInWords(student: Person, index: FactIndex, stopped: Stopped): string[] {
  const unreached = whyUnreached(student, index, stopped);
  switch (unreached?.why) {
    case "mail comes back":
      return [t("reach.mailToComesBack", { addresses: each(unreached.addresses) })];
    case "no address":
      return [t("people.noGuardianCanBeReached", { student: nameOf(student) })];
    default:
      return [];
  }
}

function lineOf(
  person: Person,
  { index, lists, insideDomains }: Omit<FamilyKnown, "stopped">,
): PersonLine {
  const classes = [...person.cohorts].map((key) => index.cohorts.get(key)?.name ?? key).sort();
  const detail =
    person.role === "student"
      ? [
          say(each(classes)) || t("shared.noClass"),
          person.level === "" ? "" : t("shared.level", { level: person.level }),
        ]
          .filter((part) => part !== "")
          .join(", ")
      : [
          ...new Set(
            [...person.ties.values()]
              .map((relationship) => relationship.toLowerCase())
              .filter((relationship) => relationship !== ""),
          ),
        ].join(", ");
  return {
    id: person.id,
    role: person.role === "student" ? "student" : "guardian",
    name: nameOf(person),
    number: person.number,
    detail,
    addresses: [...person.addresses].map((address) => ({
      address,
      inside: isInside(address, insideDomains),
      lists: lists.get(address) ?? 0,
    })),
  };
}

/** The addresses of some people and of everybody in their families. */
export function addressesAround(index: FactIndex, ids: readonly string[]): string[] {
  const around = new Set(ids);
  const addresses: string[] = [];
  // A set takes in what is added while it is gone through.
  for (const id of around) {
    const person = index.people.get(id);
    for (const other of person?.ties.keys() ?? []) around.add(other);
    addresses.push(...(person?.addresses ?? []));
  }
  return addresses;
}
