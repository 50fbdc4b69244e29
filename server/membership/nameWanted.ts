import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import { factKey, type Fact, type Facts } from "@amigo/core/facts/fact";
import { LayeredMap } from "@amigo/core/facts/layeredMap";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import type { WantedList } from "@amigo/core/lists/wantedLists";
import { wishOf } from "@amigo/core/lists/wishOf";
import { isHard } from "@amigo/core/naming/nameFault";
import { nameLists, type NamedList, type NamingRules } from "@amigo/core/naming/nameLists";
import type { Queries } from "../db/connect";
import { loadHouse, listAllSeasons, listSites } from "../db/houseQueries";
import { listTakenNames } from "./queries";

/** For how many seasons beside the one at hand a name that led to a list leads to no other. */
const SEASONS_HELD = 2;

/** What names have to keep to in this house, and what fills them. */
export interface HouseNaming {
  rules: Omit<NamingRules, "shortForms">;
  /** Sites' short codes by their names. */
  codes: ReadonlyMap<string, string>;
  /** The season's label. */
  season: string;
  today: string;
}

/** Gathers what naming needs of the house: its limits, its sites' codes, and which names are held. */
export async function houseNaming(
  db: Queries,
  seasonId: number,
  today: string,
): Promise<HouseNaming> {
  const settings = await loadHouse(db);
  const seasons = await listAllSeasons(db);
  const recent = new Set(seasons.slice(0, SEASONS_HELD + 1).map(({ id }) => id));
  const held = await listTakenNames(db);
  const holders = new Map(
    held
      .filter((row) => recent.has(row.seasonId))
      .map(({ name, key, kind, until, closedAt }) => [
        name,
        { key, now: closedAt === null && (kind === "name" || until === null || until >= today) },
      ]),
  );
  return {
    rules: {
      longest: settings?.nameLimit ?? 30,
      reserved: new Set(settings?.reservedNames ?? []),
      heldBy: (name) => holders.get(name),
    },
    codes: new Map((await listSites(db)).map((row) => [row.name, row.code])),
    season: seasons.find(({ id }) => id === seasonId)?.label ?? "",
    today,
  };
}

/** Names every open list by the convention, whatever it is called now. */
export function nameByConvention(
  lists: Iterable<WantedList>,
  index: FactIndex,
  { rules, codes, season: label }: HouseNaming,
): NamedList[] {
  return nameLists(
    [...lists].filter(({ open }) => open).map((wanted) => wishOf(wanted, label, codes)),
    { ...rules, shortForms: index.shorts },
  );
}

/**
 * Whether a list waits to be made: a recipe wants it for students, and nobody of them has an address. It is made as soon as
 * somebody has one, or by hand.
 */
export function waitsForAddresses(wanted: WantedList, index: FactIndex): boolean {
  return (
    wanted.kind === "students" &&
    wanted.recipe !== undefined &&
    wanted.name === undefined &&
    index.lists.get(wanted.key)?.get("state") === undefined &&
    !whoBelongs(wanted.audience, index).some(({ person }) => person.addresses.size > 0)
  );
}

/**
 * The names of the open lists that have none yet: by the convention, or the nearest that is free.
 *
 * @param isMade whether a list is made now; by custom, when somebody on it has an address
 */
export function nameMissing(
  wanted: ReadonlyMap<string, WantedList>,
  index: FactIndex,
  naming: HouseNaming,
  isMade = (list: WantedList): boolean => !waitsForAddresses(list, index),
): Map<string, string> {
  const given = new Map<string, string>();
  for (const { key, name } of wanted.values()) if (name !== undefined) given.set(name, key);
  const heldBy = (name: string) => {
    const key = given.get(name);
    return key === undefined ? naming.rules.heldBy(name) : { key, now: true };
  };
  const missing = [...wanted.values()].filter((list) => list.name === undefined && isMade(list));
  return new Map(
    nameByConvention(missing, index, { ...naming, rules: { ...naming.rules, heldBy } }).map(
      ({ key, name, faults, proposal }) => [key, faults.some(isHard) ? proposal : name],
    ),
  );
}

/** The facts with a name for every open list that had none. */
export function withNames(after: Facts, index: FactIndex, naming: HouseNaming): Map<string, Fact> {
  const facts = new LayeredMap(after);
  for (const [key, name] of nameMissing(wantedLists(index), index, naming)) {
    const fact: Fact = {
      subject: key,
      kind: "list",
      ref: "name",
      value: name,
      origin: { from: "rule", rule: "convention" },
    };
    facts.set(factKey(fact), fact);
  }
  return facts;
}
