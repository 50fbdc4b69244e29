import type { FactIndex } from "@amigo/core/facts/factIndex";
import { families } from "@amigo/core/identity/families";
import { listOthers } from "../calendar/dateQueries";
import type { Queries } from "../db/connect";
import { loadCurrentSeason } from "../db/houseQueries";
import { standingIndex } from "../facts/standing";
import { addressesFor, type Whom } from "../membership/addressesFor";

/** Somebody who is invited by themselves: their address, and their family. */
export interface PersonalGuest {
  address: string;
  family: string;
}

/** Returns the addresses of those who are invited to a date beside its lists, as they are known now. */
export async function personalGuests(db: Queries, date: string): Promise<PersonalGuest[]> {
  const { people, onLists } = await listOthers(db, date);
  if (people.length === 0 && onLists.length === 0) return [];
  const season = await loadCurrentSeason(db);
  const index = await standingIndex(db, season?.id ?? 0);
  return guestsIn(index, [
    ...people.map((id) => ({ id, whom: "guardians" as const })),
    ...onLists.map(({ person, children }) => ({ id: person ?? "", whom: children })),
  ]);
}

/** Returns the addresses of some people, each once. */
export function guestsIn(
  index: FactIndex,
  people: readonly { id: string; whom: Whom }[],
): PersonalGuest[] {
  const family = families(index);
  const found = new Map<string, PersonalGuest>();
  for (const { id, whom } of people) {
    const person = index.people.get(id);
    if (person === undefined) continue;
    for (const address of addressesFor(person, index, whom))
      found.set(address, { address, family: family.get(id) });
  }
  return [...found.values()];
}
