import { nextReading } from "@amigo/core/schedule/nextReading";
import type { Queries } from "../db/connect";
import { house } from "../db/schema/house";
import type { Wanted } from "./wantedIntake";

export async function nextAt(db: Queries, { times }: Wanted["content"]): Promise<Date | null> {
  const [own] = await db.select({ timeZone: house.timeZone }).from(house);
  return times === null
    ? null
    : (nextReading({ when: "times", ...times }, "watched", new Date(), own?.timeZone ?? "UTC") ??
        null);
}
