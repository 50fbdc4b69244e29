import { eq, sql } from "drizzle-orm";
import type { Facts } from "@amigo/core/facts/fact";
import { renewFacts } from "@amigo/core/facts/renewFacts";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { findChanges } from "./queries";

/** Returns the facts that stand now in a season. */
export type LoadFacts = (db: Queries, seasonId: number) => Promise<Facts>;

/** Of how many seasons facts are kept. */
const SEASONS_KEPT = 2;

interface Kept {
  version: number;
  facts: Promise<Facts>;
}

/** Facts as a transaction leaves them. */
interface Expected {
  version: number;
  transaction: string;
  facts: Facts;
}

/** Facts of seasons that are kept, and fetched again only as far as they have changed. */
export interface FactKeeper {
  load: LoadFacts;
  /** Takes what the facts of a season are from now on, in a transaction that has stored them. It counts once that is committed. */
  expect(db: Queries, seasonId: number, facts: Facts): Promise<void>;
  holds(seasonId: number): boolean;
  forget(): void;
}

/**
 * Returns a keeper of facts. Who asks while they are being fetched waits for that, and nothing is fetched twice at once. A transaction
 * that has written something gets that as well, for itself alone, because it may still be undone.
 *
 * @param loadAll fetches all facts of a season
 */
export function keepFacts(loadAll: LoadFacts): FactKeeper {
  const kept = new Map<number, Kept>();
  const expected = new Map<number, Expected>();
  const keep = (seasonId: number, version: number, facts: Promise<Facts>): Promise<Facts> => {
    const entry = { version, facts };
    kept.delete(seasonId);
    kept.set(seasonId, entry);
    for (const other of kept.keys()) if (kept.size > SEASONS_KEPT) kept.delete(other);
    facts.catch(() => {
      if (kept.get(seasonId) === entry) kept.delete(seasonId);
    });
    return facts;
  };
  const renew = async (db: Queries, seasonId: number, known: Kept): Promise<Facts> => {
    const changed = await findChanges(db, seasonId, known.version);
    if (changed === undefined) return loadAll(db, seasonId);
    // Whoever is fetching them may fail; that is no reason for others to.
    const facts = await known.facts.catch(() => undefined);
    if (facts === undefined) return loadAll(db, seasonId);
    return changed.subjects.length === 0
      ? facts
      : renewFacts(facts, changed.subjects, changed.facts);
  };
  /** Takes over what was expected, once its transaction is committed. */
  const settle = (seasonId: number, found: Version): void => {
    const next = expected.get(seasonId);
    if (next === undefined || found.outcome === "in progress") return;
    expected.delete(seasonId);
    if (found.outcome === "committed" && next.version > (kept.get(seasonId)?.version ?? -1))
      void keep(seasonId, next.version, Promise.resolve(next.facts));
  };
  const load: LoadFacts = async (db, seasonId) => {
    const next = expected.get(seasonId);
    const found = await findVersion(db, seasonId, next?.transaction);
    if (found !== undefined && next !== undefined) {
      if (found.transaction === next.transaction && found.version === next.version)
        return next.facts;
      settle(seasonId, found);
    }
    if (found === undefined) return loadAll(db, seasonId);
    const known = kept.get(seasonId);
    const { version } = found;
    const isWriting = found.transaction !== null;
    // A version that is lower than the one kept is of another state of the database, of which nothing is known.
    if (known === undefined || known.version > version) {
      const facts = loadAll(db, seasonId);
      return isWriting ? facts : keep(seasonId, version, facts);
    }
    if (known.version === version && !isWriting)
      return known.facts.catch(() => loadAll(db, seasonId));
    const facts = renew(db, seasonId, known);
    return isWriting ? facts : keep(seasonId, version, facts);
  };
  return {
    load,
    expect: async (db, seasonId, facts) => {
      const found = await findVersion(db, seasonId);
      if (found?.transaction != null)
        expected.set(seasonId, { version: found.version, transaction: found.transaction, facts });
    },
    holds: (seasonId) => kept.has(seasonId) || expected.has(seasonId),
    forget: () => {
      kept.clear();
      expected.clear();
    },
  };
}

interface Version {
  version: number;
  /** The transaction that asks, where it has written anything. */
  transaction: string | null;
  /** How the transaction that was asked about has ended; null where that is not known. */
  outcome: "committed" | "aborted" | "in progress" | null;
}

/**
 * Finds the version of a season.
 *
 * @param about a transaction that is asked about
 */
async function findVersion(
  db: Queries,
  seasonId: number,
  about?: string,
): Promise<Version | undefined> {
  const [found] = await db
    .select({
      version: season.version,
      transaction: sql<string | null>`pg_current_xact_id_if_assigned()::text`,
      // The database may be another one by now, restored from a backup, in which there was no such transaction yet.
      outcome: sql<
        Version["outcome"]
      >`case when ${about ?? null}::text::xid8 < pg_snapshot_xmax(pg_current_snapshot()) then pg_xact_status(${about ?? null}::text::xid8) end`,
    })
    .from(season)
    .where(eq(season.id, seasonId));
  return found;
}
