import { said, type Said } from "@amigo/language/say";
import { isInside } from "@amigo/core/address/isInside";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { sharedAddresses } from "@amigo/core/identity/sharedAddresses";
import { neededGone } from "@amigo/core/sheet/comparePlans";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import type { Cause } from "@amigo/core/step/cause";
import { standingGuards } from "@amigo/core/step/guards/allGuards";
import type { ListBeforeAfter, SourceToGuard, StandingGuard } from "@amigo/core/step/guards/guard";
import { LIMITS } from "@amigo/core/step/guards/limits";
import type { ChangeSum } from "@amigo/core/step/netChanges";
import type { Queries } from "../db/connect";
import { existingLists } from "../membership/existingLists";
import { latestReadings, readingBefore } from "../facts/readingQueries";
import { loadHouse } from "../db/houseQueries";
import { findSeason, countMembers, findLastReadings } from "./guardQueries";
import { insideDomains } from "../db/insideDomains";

/** What is to be carried out, and on what it is to be done. */
export interface PlannedStep {
  sum: ChangeSum;
  causes: readonly Cause[];
  standing: FactIndex;
  /** Everything once all is done, whatever of it is accepted: where the lists are known. */
  all: FactIndex;
  /** How many families each address turns up for once it is done, where there is more than one. */
  shared: () => ReadonlyMap<string, number>;
}

/** Whether causes can bring an address to more families. */
export function canShare(causes: readonly Cause[]): boolean {
  return causes.some(({ adds }) => adds.some(({ kind }) => kind === "address" || kind === "tie"));
}

/** The guards that stand before some causes are carried out. */
export async function guardStep(
  tx: Queries,
  seasonId: number,
  { sum, causes, standing, all, shared }: PlannedStep,
  sources: readonly SourceToGuard[],
): Promise<Said<StandingGuard>[]> {
  const settings = await loadHouse(tx);
  const season = await findSeason(tx, seasonId);
  const shares = canShare(causes);
  const before = shares ? sharedAddresses(standing) : new Map<string, number>();
  const after = shares ? shared() : before;
  return said(
    standingGuards({
      lists: await listsBefore(tx, seasonId, sum, all, await insideDomains(tx)),
      sources,
      shared: [...after].map(([address, families]) => ({
        address,
        families,
        before: before.get(address) ?? 0,
      })),
      season: season?.label ?? "",
      limits: { ...LIMITS, ...settings?.limits },
    }),
  );
}

async function listsBefore(
  tx: Queries,
  seasonId: number,
  { net, byList }: ChangeSum,
  index: FactIndex,
  insideDomains: readonly string[],
): Promise<ListBeforeAfter[]> {
  const existing = await existingLists(tx, seasonId);
  const counts = await countMembers(tx);
  const byId = new Map(counts.map(({ listId, count }) => [listId, count]));
  const outside = new Map<string, number>();
  const wanted = wantedLists(index);
  for (const { list, kind, address, person } of net) {
    const rule = wanted.get(list)?.rules.outside;
    const isAllowed =
      rule === "any" || (rule === "guardians" && index.people.get(person)?.role === "guardian");
    if (kind !== "leaves" && !isAllowed && !isInside(address, insideDomains))
      outside.set(list, (outside.get(list) ?? 0) + 1);
  }
  return [...byList].flatMap(([key, change]) => {
    const existingList = existing.get(key);
    const list = wanted.get(key);
    return [
      {
        key,
        name: list?.title ?? existingList?.title ?? key,
        before: byId.get(existingList?.id ?? "") ?? 0,
        ...change,
        outsideJoins: outside.get(key) ?? 0,
      },
    ];
  });
}

/** The sources that were read since the last round was carried out, each with its reading before. */
export async function sourcesBefore(tx: Queries, seasonId: number): Promise<SourceToGuard[]> {
  const done = await findLastReadings(tx);
  const found: SourceToGuard[] = [];
  for (const latest of await latestReadings(tx, seasonId)) {
    if (done?.readings.includes(latest.id) === true) continue;
    const before = await readingBefore(tx, latest.sourceId, latest.number);
    found.push({
      name: latest.sourceName,
      rowsBefore: before?.rows ?? 0,
      rowsNow: latest.rows,
      gone: before === undefined ? [] : neededGone(before.plan, latest.plan),
      writtenBefore: before?.writtenAt?.toISOString() ?? "",
      writtenNow: latest.writtenAt?.toISOString() ?? "",
      seasons: latest.seasons,
      limits: latest.limits,
    });
  }
  return found;
}
