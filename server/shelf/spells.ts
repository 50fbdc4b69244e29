import type { Spell } from "@amigo/core/shelf/mayOpen";
import type { Queries } from "../db/connect";
import { addressesFor } from "../membership/addressesFor";
import { knownPeople } from "../membership/knownPeople";
import { listListsOf, listPrivately, listPrivateShelves, listSpells } from "./placeQueries";

/** A time during which an address was on a list, or somebody behind it on a private one. */
export type AddressSpell = Spell & { address: string };

/** Lists the times that addresses were on some lists: all of some addresses, or those that last of everybody. */
export async function spellsOn(
  db: Queries,
  lists: readonly string[],
  addresses?: readonly string[],
): Promise<AddressSpell[]> {
  if (lists.length === 0) return [];
  const privately = await privateSpells(db, lists);
  const wanted = addresses === undefined ? undefined : new Set(addresses);
  return [
    ...(await listSpells(db, lists, addresses)),
    ...privately.filter(({ address }) => wanted?.has(address) !== false),
  ];
}

/** Lists the lists that an address is on, or was, and the private lists with a shelf that it is on. */
export async function listsOfAddress(db: Queries, address: string): Promise<string[]> {
  const shelves = await listPrivateShelves(db);
  const privately = shelves.length === 0 ? [] : await privateSpells(db, shelves);
  return [
    ...(await listListsOf(db, address)),
    ...new Set(privately.filter((one) => one.address === address).map(({ list }) => list)),
  ];
}

/**
 * The addresses that private lists stand for now: those to which their owners' mail would go, as far as they may know the people.
 * What they were before isn't kept.
 */
async function privateSpells(db: Queries, lists: readonly string[]): Promise<AddressSpell[]> {
  const rows = await listPrivately(db, lists);
  const spells: AddressSpell[] = [];
  const owners = new Map(rows.map(({ owner }) => [owner.id, owner]));
  for (const owner of owners.values()) {
    const known = await knownPeople(db, { ...owner, by: "session" });
    for (const { list, children, person: id, since } of rows.filter(
      (row) => row.owner.id === owner.id,
    )) {
      const person = known.people.get(id);
      if (person === undefined) continue;
      for (const address of addressesFor(person, known, children))
        spells.push({ address, list, from: since, until: null });
    }
  }
  return spells;
}
