import { type SQL, and, eq, sql, isNull } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { house } from "../db/schema/house";
import { membership, listRole } from "../db/schema/lists";
import { receiving, pause } from "../db/schema/members";
import { fact } from "../db/schema/people";
import { heldAt } from "../facts/queries";

/** Lists the members of a list at some time. */
export function listMembers(db: Queries, listId: string, onIt: SQL<unknown> | undefined) {
  return db
    .select({ address: membership.address, since: membership.validFrom })
    .from(membership)
    .where(and(eq(membership.listId, listId), onIt));
}

/** Lists the roles of a list by address. */
export function listRoles(db: Queries, listId: string) {
  return db
    .select({ email: account.email, role: listRole.role })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(eq(listRole.listId, listId));
}

/** Lists the facts by which addresses are always or never on a list, at some time. */
export function listKeptFacts(
  db: Queries,
  seasonId: number,
  key: string,
  instant: Date | undefined,
) {
  return db
    .select({ ref: fact.ref, value: fact.value, at: fact.validFrom })
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        eq(fact.subject, key),
        eq(fact.kind, "kept"),
        heldAt(instant),
      ),
    )
    .orderBy(sql`${fact.validFrom} desc`);
}

/** Lists how often members of a list want its mail, as far as they have chosen. */
export function listHowOften(db: Queries, listId: string) {
  return db
    .select({ address: receiving.address, howOften: receiving.howOften })
    .from(receiving)
    .where(eq(receiving.listId, listId));
}

/** Lists the members of a list who get no mail for a while. */
export function listPauses(db: Queries, listId: string) {
  return db
    .select({ address: pause.address, until: pause.until })
    .from(pause)
    .innerJoin(
      membership,
      and(
        eq(membership.address, pause.address),
        eq(membership.listId, listId),
        isNull(membership.validUntil),
      ),
    )
    .innerJoin(house, sql`${pause.until} >= (now() at time zone ${house.timeZone})::date`);
}

/** Lists the last copy of each address of a list. */
export function listLastCopies(db: Queries, listId: string) {
  return db.execute<{
    address: string;
    state: string;
    reply: string;
    at: Date | string | null;
  }>(
    sql`select distinct on (address) address, state, reply, coalesce(sent_at, created_at) as at from delivery where list_id = ${listId} order by address, id desc`,
  );
}
