import { byFamily, familyAnswer } from "@amigo/core/calendar/familyAnswer";
import { nameOf } from "@amigo/core/facts/factIndex";
import { knownPeople } from "../membership/knownPeople";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { whoBelongs } from "../membership/whoBelongs";
import { listGuests, listGuestsOnLists, listListsOfDates } from "./dateQueries";

/** A guest of a date with who they are, for somebody who may know it. */
export type GuestSeen = Awaited<ReturnType<typeof guestsSeen>>[number];

/** Returns the guests of a date whom somebody may know, with their names, their families and those of its lists that they are on. */
export async function guestsSeen(db: Queries, caller: Caller, date: string) {
  const guests = (await listGuests(db, [date], caller)).filter(({ isSeen }) => isSeen);
  const personal = guests.filter(({ isPersonal }) => isPersonal);
  const names = await namesOf(db, caller, date, new Set(personal.map(({ address }) => address)));
  const lists = new Map<string, string[]>();
  for (const { address, list } of await listGuestsOnLists(db, date, caller))
    lists.set(address, [...(lists.get(address) ?? []), list]);
  return guests.map(({ date: _, isSeen: __, isPersonal: ___, ...guest }) => ({
    ...guest,
    name: [...(names.get(guest.address) ?? [])].join(", "),
    lists: lists.get(guest.address) ?? [],
  }));
}

/** Returns those guests none of whose family has answered. */
export function silentGuests(guests: readonly GuestSeen[]): GuestSeen[] {
  return [...byFamily(guests).values()].filter((family) => familyAnswer(family) === null).flat();
}

/** The names of the people behind each address of a date's lists, as far as the asker sees those. */
async function namesOf(
  db: Queries,
  caller: Caller,
  date: string,
  guests: ReadonlySet<string>,
): Promise<Map<string, Set<string>>> {
  const names = new Map<string, Set<string>>();
  for (const list of await listListsOfDates(db, [date], caller)) {
    if (!list.isSeen) continue;
    for (const { name, addresses } of await whoBelongs(db, list))
      for (const address of addresses)
        names.set(address, (names.get(address) ?? new Set<string>()).add(name));
  }
  if (guests.size === 0) return names;
  // Those whom the asker chose by themselves are on no list of the date.
  const { people } = await knownPeople(db, caller);
  for (const person of people.values())
    for (const address of person.addresses)
      if (!names.has(address) && guests.has(address)) names.set(address, new Set([nameOf(person)]));
  return names;
}
