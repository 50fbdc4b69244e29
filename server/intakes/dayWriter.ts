import { localeOf } from "@amigo/core/text/place";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";

/** Returns a function that writes the day of an instant as the school writes its dates. */
export async function dayWriter(db: Queries): Promise<(at: Date) => string> {
  const house = await loadHouse(db);
  const format = new Intl.DateTimeFormat(
    localeOf({ language: house?.language ?? "en", country: house?.country ?? "" }),
    { timeZone: house?.timeZone ?? "UTC", day: "numeric", month: "short", year: "numeric" },
  );
  return (at) => format.format(at);
}
