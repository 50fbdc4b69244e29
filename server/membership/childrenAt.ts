import { nameOf } from "@amigo/core/facts/factIndex";
import type { Queries } from "../db/connect";
import { loadCurrentSeason } from "../db/houseQueries";
import { standingIndex } from "../facts/standing";

/** A student in whose family an address is. */
export interface ChildAt {
  id: string;
  name: string;
  /** The keys of the classes, teams and committees that they are in, and their names. */
  cohorts: { key: string; name: string }[];
}

/** Returns the students whose guardians have an address now, or who have it themselves. */
export async function childrenAt(db: Queries, address: string): Promise<ChildAt[]> {
  const current = await loadCurrentSeason(db);
  if (current === undefined) return [];
  const index = await standingIndex(db, current.id);
  const ids = new Set(
    [...index.people.values()]
      .filter((person) => person.addresses.has(address))
      .flatMap((person) =>
        person.role === "guardian"
          ? [...person.ties.keys()]
          : person.role === "student"
            ? [person.id]
            : [],
      ),
  );
  return [...ids]
    .map((id) => index.people.get(id))
    .filter((student) => student !== undefined)
    .map((student) => ({
      id: student.id,
      name: nameOf(student),
      cohorts: [...student.cohorts].map((key) => ({
        key,
        name: index.cohorts.get(key)?.name ?? key,
      })),
    }));
}
