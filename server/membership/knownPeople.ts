import { and, eq, inArray, isNull } from "drizzle-orm";
import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import type { FactIndex } from "@amigo/core/facts/indexFacts";
import { families } from "@amigo/core/identity/families";
import { wantedLists } from "@amigo/core/lists/wantedLists";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { list, privateList, privateListPerson, season } from "../db/schema";
import { standingIndex } from "../facts/standing";
import { notFound } from "../http/fault";
import { addressesFor } from "./addressesFor";
import { listsOf } from "./scope";

/** The people whom somebody may know of: everybody for a coordinator, else the staff and those on the lists that they see. */
export async function knownPeople(db: Queries, caller: Caller): Promise<FactIndex> {
  const [current] = await db.select({ id: season.id }).from(season).where(eq(season.current, true));
  const index = await standingIndex(db, current?.id ?? 0);
  if (caller.role === "coordinator") return index;
  const wanted = wantedLists(index);
  const keys = await db
    .select({ key: list.key })
    .from(list)
    .where(and(eq(list.seasonId, current?.id ?? 0), isNull(list.closedAt), listsOf(caller)));
  const people: FactIndex["people"] = new Map(
    [...index.people].filter(([, { role }]) => role === "staff"),
  );
  for (const { key } of keys) {
    const own = wanted.get(key);
    if (own !== undefined)
      for (const { person } of whoBelongs(own.audience, index)) people.set(person.id, person);
  }
  // Whose guardian somebody is, is known with them.
  const around = new Map(people);
  for (const person of people.values())
    for (const id of person.ties.keys()) {
      const other = index.people.get(id);
      if (other !== undefined && person.role === "guardian") around.set(id, other);
    }
  return { ...index, people: around };
}

/** The people on some of the asker's own private lists who are still in the house, with the family that each belongs to. */
export async function peoplePrivately(
  db: Queries,
  ids: readonly string[],
  caller: Caller,
): Promise<{ family: string; addresses: string[] }[]> {
  if (ids.length === 0) return [];
  const rows = await db
    .select({
      id: privateList.id,
      person: privateListPerson.person,
      children: privateList.children,
    })
    .from(privateList)
    .leftJoin(privateListPerson, eq(privateListPerson.privateListId, privateList.id))
    .where(and(eq(privateList.accountId, caller.id), inArray(privateList.id, [...ids])));
  if (new Set(rows.map(({ id }) => id)).size < new Set(ids).size) throw notFound("private list");
  const known = await knownPeople(db, caller);
  const family = families(known);
  return rows.flatMap(({ person: id, children }) => {
    const person = known.people.get(id ?? "");
    return person === undefined
      ? []
      : [
          {
            family: family.get(person.id) ?? person.id,
            addresses: addressesFor(person, known, children),
          },
        ];
  });
}
