import { addToIndex } from "@amigo/core/facts/indexFacts";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Queries } from "../db/connect";
import { houseIndex } from "../facts/standing";
import { nameMissing, houseNaming } from "../membership/nameWanted";
import { loadHouse } from "../db/houseQueries";
import { listCohortCauses, listTouchedKeys } from "./causeQueries";

/** What the lists that this round would make will be called. */
export async function plannedNames(
  db: Queries,
  found: { seasonId: number; round: number },
): Promise<Map<string, string>> {
  const rows = await listCohortCauses(db, found.round);
  const cohorts = rows.flatMap(({ adds }) => adds.filter(({ kind }) => kind === "cohort"));
  if (cohorts.length === 0) return new Map();
  // The people of the round stand in no index yet, so the lists that it makes are told by its changes.
  const touched = await listTouchedKeys(db, found.round);
  const keys = new Set(touched.rows.map(({ key }) => key));
  const index = await houseIndex(db, found.seasonId);
  for (const cohort of cohorts) addToIndex(index, cohort);
  const settings = await loadHouse(db);
  const missing = nameMissing(
    wantedLists(index),
    index,
    await houseNaming(db, found.seasonId, dayIn(settings?.timeZone ?? "UTC", new Date())),
    ({ key }) => keys.has(key),
  );
  return new Map([...missing].map(([key, name]) => [key, `${name} (new)`]));
}
