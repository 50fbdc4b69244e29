import type { Database } from "../db/connect";
import { isWithinTries } from "../http/limitTries";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";

/** How many things, versions and comments one member may add in an hour. */
const MOST_AN_HOUR = 60;

/** Counts something that a member adds, and refuses what is more than one may in an hour. */
export async function withinMemberLimit(
  db: Database,
  member: string,
): Promise<Refused | undefined> {
  return (await isWithinTries(db, `shelf ${member}`, MOST_AN_HOUR, 60))
    ? undefined
    : refused(429, "too-many", t("shelf.tooManyInAnHour"));
}
