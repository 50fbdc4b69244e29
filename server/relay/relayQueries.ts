import { and, eq, isNotNull, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { relayState } from "../db/schema/deliveries";

const LONGEST = 300;

/** Stores that the relay can't be reached, and why; since when stays as it was. */
export async function markRelayAway(db: Queries, relay: string, words: string): Promise<void> {
  const line = words.replace(/\s+/g, " ").trim().slice(0, LONGEST);
  await db
    .insert(relayState)
    .values({ relay, awaySince: sql`now()`, words: line })
    .onConflictDoUpdate({
      target: relayState.relay,
      set: {
        awaySince: sql`coalesce(${relayState.awaySince}, now())`,
        words: line,
        checkedAt: sql`now()`,
      },
    });
}

/** Stores that the relay answers. Returns whether it was away. */
export async function markRelayBack(db: Queries, relay: string): Promise<boolean> {
  const changed = await db
    .update(relayState)
    .set({ awaySince: null, words: "", checkedAt: sql`now()` })
    .where(and(eq(relayState.relay, relay), isNotNull(relayState.awaySince)));
  if ((changed.rowCount ?? 0) > 0) return true;
  await markRelayChecked(db, relay);
  return false;
}

/** Stores that the relay has just answered. */
export async function markRelayChecked(db: Queries, relay: string): Promise<void> {
  await db
    .insert(relayState)
    .values({ relay })
    .onConflictDoUpdate({ target: relayState.relay, set: { checkedAt: sql`now()` } });
}

/** Returns since when the relay can't be reached, and why; undefined while it answers. What was found long ago by a worker that is gone does not count. */
export async function findRelayAway(db: Queries, relay: string) {
  const [found] = await db
    .select({ since: relayState.awaySince, words: relayState.words })
    .from(relayState)
    .where(
      and(
        eq(relayState.relay, relay),
        isNotNull(relayState.awaySince),
        sql`${relayState.checkedAt} > now() - interval '10 minutes'`,
      ),
    );
  return found?.since === null || found?.since === undefined
    ? undefined
    : { since: found.since, words: found.words };
}
