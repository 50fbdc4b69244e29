import { and, eq, isNull, inArray, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { house } from "../db/schema/house";
import { fact } from "../db/schema/people";
import { factColumns, heldAt } from "../facts/queries";
import { addressTrouble } from "../db/schema/deliveries";
import { type KnownDomains, learnDomains } from "@amigo/core/address/learnDomains";

/** Returns the addresses to which mail has stopped. */
export async function loadStopped(db: Queries): Promise<Set<string>> {
  const rows = await db
    .select({ address: addressTrouble.address })
    .from(addressTrouble)
    .where(sql`${addressTrouble.state} = 'stopped'`);
  return new Set(rows.map(({ address }) => address));
}

/** Lists the names of the people behind some addresses, with their roles. */
export function listNamesBehind(db: Queries, seasonId: number, addresses: readonly string[]) {
  return db.execute<{ address: string; name: string; role: string }>(sql`
    select address.ref as address, trim(concat(name.value->>'given', ' ', name.value->>'family')) as name, role.kind as role
    from ${fact} address
    join ${fact} name on name.season_id = address.season_id and name.subject = address.subject and name.kind = 'name' and name.valid_until is null
    join ${fact} role on role.season_id = address.season_id and role.subject = address.subject and role.kind in ('student', 'guardian', 'staff') and role.valid_until is null
    where address.season_id = ${seasonId} and address.kind = 'address' and address.valid_until is null and ${inArray(sql`address.ref`, [...addresses])}`);
}

/** Lists all facts of a season as they stood at an instant. */
export function listFactsAt(db: Queries, seasonId: number, instant: Date) {
  return db
    .select(factColumns)
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), heldAt(instant)));
}

/** The domains of the addresses that the house knows, by which a slip is known. */
export async function knownDomains(db: Queries, seasonId: number): Promise<KnownDomains> {
  const [rows, [settings]] = await Promise.all([
    db
      .select({ ref: fact.ref })
      .from(fact)
      .where(and(eq(fact.seasonId, seasonId), eq(fact.kind, "address"), isNull(fact.validUntil))),
    db.select({ listDomain: house.listDomain }).from(house),
  ]);
  return learnDomains(
    rows.map(({ ref }) => ref),
    settings?.listDomain,
  );
}

/** Lists the facts at some places as they stood at an instant. */
export function listFactsAtPlaces(
  db: Queries,
  seasonId: number,
  instant: Date | undefined,
  wanted: string,
) {
  return db
    .select(factColumns)
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        heldAt(instant),
        sql`exists (select 1 from json_to_recordset(${wanted}::json) as place(s text, k text, r text) where place.s = ${fact.subject} and place.k = ${fact.kind} and place.r = ${fact.ref})`,
      ),
    );
}
