import { and, eq, sql } from "drizzle-orm";
import type { KnownWords } from "@amigo/core/sheet/columns/knownWords";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { Queries } from "../db/connect";
import { account, fact, season, site } from "../db/schema";
import { heldAt } from "../facts/queries";
import { latestReadings } from "../readings/queries";

/** The most titles that are given; those of the newest sources are kept. */
const MOST_TITLES = 2000;
/** A column that wasn't used may hold anything. */
const TELLS_NOTHING: ReadonlySet<MeaningId> = new Set<MeaningId>(["unread"]);

/** What the house knows before it looks at a sheet: titles that were read before, its classes, teams, sites and staff. */
export async function knownWords(db: Queries): Promise<KnownWords> {
  const [current] = await db.select({ id: season.id }).from(season).where(eq(season.current, true));
  if (current === undefined) return { titles: [], classes: [], teams: [], sites: [], staff: [] };
  const [readings, cohorts, sites, staff] = await Promise.all([
    latestReadings(db, current.id),
    db
      .selectDistinct({
        name: sql<string>`${fact.value}->>'name'`,
        kind: sql<string>`${fact.value}->>'kind'`,
      })
      .from(fact)
      .where(and(eq(fact.seasonId, current.id), eq(fact.kind, "cohort"), heldAt(undefined))),
    db.select({ name: site.name, code: site.code }).from(site),
    db.select({ name: account.name }).from(account),
  ]);
  const named = (kind: string): string[] =>
    cohorts.filter((own) => own.kind === kind).map(({ name }) => name);
  return {
    titles: readings
      .flatMap(({ plan }) => plan.columns)
      .filter(({ title, meaning }) => title !== "" && !TELLS_NOTHING.has(meaning))
      .map(({ title, meaning }) => ({ title, meaning }))
      .slice(-MOST_TITLES),
    classes: named("class"),
    teams: named("team"),
    sites: sites.flatMap(({ name, code }) => [name, code]),
    staff: staff.map(({ name }) => name),
  };
}
