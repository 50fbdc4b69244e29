import { canonicalAddress } from "@amigo/core/address/domainName";
import { noSuch, type Refused } from "../refused";
import { peopleKnownTo } from "@amigo/core/access/peopleKnownTo";
import type { Audience } from "@amigo/core/audience/audience";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { families } from "@amigo/core/identity/families";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { addressesFor } from "./addressesFor";
import { loadCurrentSeason } from "../db/houseQueries";
import { findSiteName, listSeenKeys, listSeenAddresses, listPrivatePeople } from "./queries";

/** The people whom somebody may know of, by the one rule (`core/access/peopleKnownTo`), with the house around them. */
export async function knownPeople(db: Queries, caller: Caller): Promise<FactIndex> {
  const current = await loadCurrentSeason(db);
  const index = await standingIndex(db, current?.id ?? 0);
  if (caller.role === "coordinator") return index;
  const [at] =
    caller.role !== "site coordinator" || caller.siteId === null
      ? []
      : await findSiteName(db, caller.siteId);
  const keys = await listSeenKeys(db, current?.id, caller);
  const asker = JSON.stringify([at?.name ?? "", keys.map(({ key }) => key).sort()]);
  const worked = WORKED_OUT.get(index) ?? new Map<string, FactIndex>();
  WORKED_OUT.set(index, worked);
  const found = worked.get(asker) ?? {
    ...index,
    people: new Map(
      peopleKnownTo(
        {
          everybody: false,
          site: at?.name ?? "",
          audiences: audiencesOf(index, keys),
        },
        index,
      ),
    ),
  };
  worked.set(asker, found);
  return found;
}

function audiencesOf(index: FactIndex, keys: readonly { key: string }[]): Audience[] {
  const wanted = wantedLists(index);
  return keys.flatMap(({ key }) => wanted.get(key)?.audience ?? []);
}

/** Who is known by which site and lists, as long as everybody stands as they do: it is asked at every letter that is typed. */
const WORKED_OUT = new WeakMap<FactIndex, Map<string, FactIndex>>();

/**
 * Says of addresses whether somebody may learn who is behind them: people whom they know, and members of lists whose members
 * they may see, also those who are on a list by hand.
 */
export async function knownAddresses(
  db: Queries,
  caller: Caller,
): Promise<(address: string) => boolean> {
  if (caller.role === "coordinator") return () => true;
  const { people } = await knownPeople(db, caller);
  const known = new Set([...people.values()].flatMap(({ addresses }) => [...addresses]));
  const rows = await listSeenAddresses(db, caller);
  for (const { address } of rows) known.add(address);
  known.add(caller.email);
  return (address) => known.has(canonicalAddress(address));
}

/** The people on some of the asker's own private lists who are still in the house, with the family that each belongs to. */
export async function peoplePrivately(
  db: Queries,
  ids: readonly string[],
  caller: Caller,
): Promise<{ family: string; addresses: string[] }[] | Refused> {
  if (ids.length === 0) return [];
  const rows = await listPrivatePeople(db, caller.id, ids);
  if (new Set(rows.map(({ id }) => id)).size < new Set(ids).size) return noSuch("privateList");
  const known = await knownPeople(db, caller);
  const family = families(known);
  return rows.flatMap(({ person: id, children }) => {
    const person = known.people.get(id ?? "");
    return person === undefined
      ? []
      : [
          {
            family: family.get(person.id),
            addresses: addressesFor(person, known, children),
          },
        ];
  });
}
