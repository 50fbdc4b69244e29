import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { nameOf, type FactIndex } from "@amigo/core/facts/factIndex";

/** What is filled in for each address: the names of those behind it, their children or they themselves, and the classes. */
export function fieldsFor(
  addresses: readonly string[],
  known: FactIndex,
  house: string,
): Map<string, Record<string, string>> {
  const behind = new Map<string, string[]>();
  for (const person of known.people.values())
    for (const address of person.addresses)
      behind.set(address, [...(behind.get(address) ?? []), person.id]);
  return new Map(
    [...new Set(addresses)].map((address) => {
      const people = (behind.get(address) ?? []).flatMap((id) => known.people.get(id) ?? []);
      const grown = people.filter(({ role }) => role !== "student");
      const students = [
        ...new Set(
          people.flatMap((person) =>
            person.role === "student" ? [person.id] : [...person.ties.keys()],
          ),
        ),
      ]
        .flatMap((id) => known.people.get(id) ?? [])
        .filter(({ role }) => role === "student");
      const called = grown.length > 0 ? grown : people;
      const classes = [
        ...new Set(
          students.flatMap(({ cohorts }) =>
            [...cohorts].map((key) => known.cohorts.get(key)?.name ?? key),
          ),
        ),
      ].sort();
      return [
        address,
        {
          "first name": say(each(called.map(({ given }) => given))),
          name: say(each(called.map((person) => nameOf(person)))),
          children: say(each(students.map(({ given }) => given))),
          class: say(each(classes)),
          house,
        },
      ];
    }),
  );
}
