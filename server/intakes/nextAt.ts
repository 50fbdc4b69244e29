import { nextReading } from "@amigo/core/schedule/nextReading";
import type { Queries } from "../db/connect";
import type { Wanted } from "./wantedIntake";
import { loadHouse } from "../db/houseQueries";

export async function nextAt(db: Queries, { times }: Wanted["content"]): Promise<Date | null> {
  const house = await loadHouse(db);
  return times === null
    ? null
    : (nextReading({ when: "times", ...times }, "watched", new Date(), house?.timeZone ?? "UTC") ??
        null);
}
