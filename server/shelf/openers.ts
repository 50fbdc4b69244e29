import { mayOpen, type MayOpen, type ShelvedThing, type Spell } from "@amigo/core/shelf/mayOpen";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { listListsOfThings } from "./placeQueries";
import { listThings, type ThingRow } from "./queries";
import { listsOfAddress, spellsOn, type AddressSpell } from "./spells";

/** What it is judged by who may open things: the lists that they are on, those that are open, and the day. */
interface Around {
  listsOf: Map<string, string[]>;
  open: Set<string>;
  today: string;
  now: Date;
}

async function around(db: Queries, things: readonly ThingRow[], now: Date): Promise<Around> {
  const house = await loadHouse(db);
  const ids = things.map(({ thing }) => thing.id);
  const rows = ids.length === 0 ? [] : await listListsOfThings(db, ids);
  const listsOf = new Map<string, string[]>();
  for (const { thing, id } of rows) listsOf.set(thing, [...(listsOf.get(thing) ?? []), id]);
  return {
    listsOf,
    open: new Set(rows.filter(({ isOpen }) => isOpen).map(({ id }) => id)),
    today: dayIn(house?.timeZone ?? "UTC", now),
    now,
  };
}

function shelved({ thing }: ThingRow, { listsOf }: Around): ShelvedThing {
  return {
    lists: listsOf.get(thing.id) ?? [],
    untilDay: thing.untilDay ?? "",
    isTakenOff: thing.takenOffAt !== null,
  };
}

function byAddress(rows: readonly AddressSpell[]): Map<string, Spell[]> {
  const spells = new Map<string, Spell[]>();
  for (const { address, ...spell } of rows) {
    const theirs = spells.get(address);
    if (theirs === undefined) spells.set(address, [spell]);
    else theirs.push(spell);
  }
  return spells;
}

/**
 * Returns for each of some things the addresses that may open it now.
 *
 * @param among the lists by which they may; all of the things', where none are given
 */
export async function openersOf(
  db: Queries,
  things: readonly ThingRow[],
  now: Date,
  among?: ReadonlySet<string>,
): Promise<Map<string, string[]>> {
  const known = await around(db, things, now);
  if (among !== undefined)
    for (const [thing, all] of known.listsOf)
      known.listsOf.set(
        thing,
        all.filter((id) => among.has(id)),
      );
  const lists = [...new Set([...known.listsOf.values()].flat())];
  const spells = byAddress(await spellsOn(db, lists));
  return new Map(
    things.map((row) => {
      const thing = shelved(row, known);
      const openers = [...spells]
        .filter(([, theirs]) => mayOpen(thing, theirs, known.open, known.today, now).may)
        .map(([address]) => address);
      return [row.thing.id, openers.sort()];
    }),
  );
}

/** Tells of some addresses whether their owners may open something now, and why. */
export async function mayAddressesOpen(
  db: Queries,
  row: ThingRow,
  addresses: readonly string[],
  now: Date,
): Promise<Map<string, MayOpen>> {
  const known = await around(db, [row], now);
  const lists = known.listsOf.get(row.thing.id) ?? [];
  const spells = byAddress(addresses.length === 0 ? [] : await spellsOn(db, lists, addresses));
  const thing = shelved(row, known);
  return new Map(
    addresses.map((address) => {
      const theirs = spells.get(address) ?? [];
      return [address, mayOpen(thing, theirs, known.open, known.today, now)];
    }),
  );
}

/** Returns what the owner of an address may open now, each with why they may. */
export async function openableBy(
  db: Queries,
  address: string,
  now: Date,
): Promise<{ row: ThingRow; may: MayOpen & { may: true } }[]> {
  const lists = await listsOfAddress(db, address);
  const things = await listThings(db, lists);
  const known = await around(db, things, now);
  const spells = await spellsOn(db, lists, [address]);
  return things.flatMap((row) => {
    const found = mayOpen(shelved(row, known), spells, known.open, known.today, now);
    return found.may ? [{ row, may: found }] : [];
  });
}
