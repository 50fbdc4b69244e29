import {
  columnsKept,
  studentSample,
  whichSource,
  type WhichSource,
} from "@amigo/core/sheet/whichSource";
import type { Database } from "../db/connect";
import { latestReadings, readAgain } from "../facts/readingQueries";
import type { ReadingPlan } from "@amigo/core/sheet/table";
import { loadCurrentSeason } from "../db/houseQueries";
import { listSourceKinds } from "./queries";

/** A sheet that somebody has dropped, as far as its source is told by it. */
export interface DroppedSheet {
  plan: Pick<ReadingPlan, "columns" | "others">;
  /** Name keys of its students; where there are very many, every second, third or further one. */
  names: readonly string[];
  oneIn: number;
}

/** Only sources whose columns are somewhat like the sheet's are looked into. */
const WORTH_A_LOOK = 0.4;

/** Holds a dropped sheet against every source of the season that is fed by files, and tells which one it continues. */
export async function matchSources(db: Database, dropped: DroppedSheet): Promise<WhichSource> {
  const current = await loadCurrentSeason(db);
  if (current === undefined) return { is: "new" };
  const kinds = new Map((await listSourceKinds(db)).map(({ id, kind }) => [id, kind]));
  const names = new Set(dropped.names);
  const likenesses = [];
  for (const reading of await latestReadings(db, current.id)) {
    const kind = kinds.get(reading.sourceId);
    if (kind === "form" || kind === "posted") continue;
    const columns = columnsKept(dropped.plan, reading.plan);
    if (columns < WORTH_A_LOOK) continue;
    const before = studentSample((await readAgain(db, reading)).records, dropped.oneIn);
    const both = before.filter((name) => names.has(name)).length;
    likenesses.push({
      source: reading.sourceId,
      columns,
      kept: both / Math.max(before.length, 1),
      known: both / Math.max(names.size, 1),
    });
  }
  return whichSource(likenesses);
}
