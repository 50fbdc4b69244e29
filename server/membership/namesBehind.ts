import { inArray, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { fact } from "../db/schema/people";

/** Who is known behind some addresses in a season: the name and what they are, by address, in one query. */
export async function namesBehind(
  db: Queries,
  seasonId: number,
  addresses: readonly string[],
): Promise<Map<string, { name: string; role: string }>> {
  if (addresses.length === 0) return new Map();
  const rows = await db.execute<{ address: string; name: string; role: string }>(sql`
    select address.ref as address, trim(concat(name.value->>'given', ' ', name.value->>'family')) as name, role.kind as role
    from ${fact} address
    join ${fact} name on name.season_id = address.season_id and name.subject = address.subject and name.kind = 'name' and name.valid_until is null
    join ${fact} role on role.season_id = address.season_id and role.subject = address.subject and role.kind in ('student', 'guardian', 'staff') and role.valid_until is null
    where address.season_id = ${seasonId} and address.kind = 'address' and address.valid_until is null and ${inArray(sql`address.ref`, [...addresses])}`);
  return new Map(rows.rows.map(({ address, ...row }) => [address, row]));
}
