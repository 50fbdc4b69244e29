import { familyAnswer } from "@amigo/core/calendar/familyAnswer";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { whoBelongs } from "../membership/whoBelongs";
import { listGuests, listGuestsOnLists, listListsOfDates } from "./dateQueries";

/** A guest of a date with who they are, for somebody who may know it. */
export type GuestSeen = Awaited<ReturnType<typeof guestsSeen>>[number];

/** Returns the guests of a date whom somebody may know, with their names, their families and those of its lists that they are on. */
export async function guestsSeen(db: Queries, caller: Caller, date: string) {
  const guests = (await listGuests(db, [date], caller)).filter(({ isSeen }) => isSeen);
  const people = await whoTheyAre(db, caller, date);
  const lists = new Map<string, string[]>();
  for (const { address, list } of await listGuestsOnLists(db, date, caller))
    lists.set(address, [...(lists.get(address) ?? []), list]);
  return guests.map(({ date: _, isSeen: __, ...guest }) => {
    const known = people.get(guest.address);
    return {
      ...guest,
      name: [...(known?.names ?? [])].join(", "),
      family: known?.family ?? guest.address,
      lists: lists.get(guest.address) ?? [],
    };
  });
}

/** Counts the families that haven't answered by any of their addresses, and these addresses. */
export function whomToAsk(guests: readonly GuestSeen[]): {
  families: number;
  addresses: number;
} {
  const silent = silentGuests(guests);
  return {
    families: new Set(silent.map(({ family }) => family)).size,
    addresses: silent.length,
  };
}

/** Returns those guests none of whose family has answered. */
export function silentGuests(guests: readonly GuestSeen[]): GuestSeen[] {
  const families = new Map<string, GuestSeen[]>();
  for (const guest of guests)
    families.set(guest.family, [...(families.get(guest.family) ?? []), guest]);
  return [...families.values()]
    .filter((family) => familyAnswer(family.map(({ answer }) => answer)) === null)
    .flat();
}

/** The people and the family behind each address of a date's lists, as far as the asker sees those. */
async function whoTheyAre(
  db: Queries,
  caller: Caller,
  date: string,
): Promise<Map<string, { names: Set<string>; family: string }>> {
  const found = new Map<string, { names: Set<string>; family: string }>();
  for (const list of await listListsOfDates(db, [date], caller)) {
    if (!list.isSeen) continue;
    for (const { name, addresses, family } of await whoBelongs(db, list))
      for (const address of addresses) {
        const known = found.get(address) ?? { names: new Set<string>(), family };
        known.names.add(name);
        found.set(address, known);
      }
  }
  return found;
}
