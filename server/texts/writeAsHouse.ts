import { staffLanguage } from "@amigo/language/staff";
import { speakAs } from "@amigo/language/texts";
import { localeOf } from "@amigo/core/text/place";
import type { Queries } from "../db/connect";
import { house } from "../db/schema/house";
import { writeAsIn } from "./inLanguage";

/** Has this thread write numbers and days in texts as the house does, from now on. */
export async function writeAsHouse(db: Queries): Promise<void> {
  const [found] = await db.select({ language: house.language, country: house.country }).from(house);
  if (found === undefined) return;
  speakAs({ language: staffLanguage(found.language) ?? "en", locale: localeOf(found) });
  writeAsIn(found.country);
}
