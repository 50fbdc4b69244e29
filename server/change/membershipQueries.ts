import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { copyInto, type CopyValue } from "../db/copyInto";
import type { Queries } from "../db/connect";
import { membership } from "../db/schema/lists";

/*
 * Everything that begins or ends a membership is here; the linter lets no other file write them.
 */

/** Once this many memberships have changed, PostgreSQL measures the table again, so that it plans its queries well. */
const MANY = 500;

/** Why an address is on a list: the list is for somebody who has it, or it was put there by hand. */
export type MembershipOrigin = "audience" | "kept on";

/** A membership to be begun. */
export interface Beginning {
  listId: string;
  address: string;
  origin: MembershipOrigin;
}

/** Lists who is on some lists now. */
export function listMembersOf(db: Queries, lists: string[]) {
  return db
    .select({ id: membership.id, listId: membership.listId, address: membership.address })
    .from(membership)
    .where(and(isNull(membership.validUntil), inArray(membership.listId, lists)));
}

/** Begins and ends any number of memberships by a round, all at the transaction's time. */
export async function moveMemberships(
  db: Queries,
  round: number,
  { begun, ended }: { begun: readonly Beginning[]; ended: readonly number[] },
): Promise<void> {
  if (ended.length > 0)
    await db.execute(
      sql`update membership set valid_until = now(), until_round = ${round} from json_array_elements_text(${JSON.stringify(ended)}::json) as gone(id) where membership.id = gone.id::bigint`,
    );
  if (begun.length > 0) {
    const { rows } = await db.execute<{ now: string }>(sql`select now()::text as now`);
    const now = rows[0]?.now ?? "now";
    await copyInto(
      db,
      "membership (list_id, address, valid_from, from_round, origin)",
      begun.map(({ listId, address, origin }): CopyValue[] => [
        listId,
        address,
        now,
        round,
        origin,
      ]),
    );
  }
  if (begun.length + ended.length > MANY) await db.execute(sql`analyze membership`);
}

/** Begins memberships that no round brings. Who is on a list already stays so. */
export async function beginMemberships(db: Queries, begun: readonly Beginning[]): Promise<void> {
  if (begun.length === 0) return;
  await db
    .insert(membership)
    .values(begun.map((row) => ({ ...row, validFrom: sql`now()` })))
    .onConflictDoNothing();
}

/** Ends the memberships of some addresses of a list, by no round. */
export async function endMembershipsOf(
  db: Queries,
  listId: string,
  addresses: readonly string[],
): Promise<void> {
  if (addresses.length === 0) return;
  await db
    .update(membership)
    .set({ validUntil: sql`now()` })
    .where(
      and(
        eq(membership.listId, listId),
        inArray(membership.address, [...addresses]),
        isNull(membership.validUntil),
      ),
    );
}

/** Ends all memberships of a season's lists by a round. */
export async function endSeasonMemberships(
  db: Queries,
  round: number,
  seasonId: number,
): Promise<void> {
  await db.execute(
    sql`update membership set valid_until = now(), until_round = ${round} from list where list.id = membership.list_id and list.season_id = ${seasonId} and membership.valid_until is null`,
  );
}
