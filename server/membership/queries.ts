import { and, eq, isNull, inArray } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { membership, list, greeting, listRole } from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { factColumns } from "../facts/queries";

/** Lists the addresses that are on a list now. */
export function listMemberAddresses(db: Queries, listId: string) {
  return db
    .select({ address: membership.address })
    .from(membership)
    .where(and(eq(membership.listId, listId), isNull(membership.validUntil)));
}

/** Returns the list with an id, or undefined. */
export async function findList(db: Queries, id: string) {
  const [found] = await db.select().from(list).where(eq(list.id, id));
  return found;
}

/** Lists which of some addresses are on a list now, and since when. */
export function findMembersAmong(db: Queries, listId: string, addresses: string[]) {
  return db
    .select({ address: membership.address, from: membership.validFrom })
    .from(membership)
    .where(
      and(
        eq(membership.listId, listId),
        isNull(membership.validUntil),
        inArray(membership.address, addresses),
      ),
    );
}

/** Lists the facts by which some addresses are always or never on a list. */
export function findKeptAmong(db: Queries, seasonId: number, key: string, addresses: string[]) {
  return db
    .select(factColumns)
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        eq(fact.subject, key),
        eq(fact.kind, "kept"),
        inArray(fact.ref, addresses),
        isNull(fact.validUntil),
      ),
    );
}

/** Lists the questions to some addresses whether they want to be on a list, as far as unanswered. */
export function findAsksAmong(db: Queries, listId: string, addresses: string[]) {
  return db
    .select({ address: greeting.address, kind: greeting.kind, at: greeting.at })
    .from(greeting)
    .where(
      and(
        eq(greeting.listId, listId),
        inArray(greeting.kind, ["ask", "agree"]),
        isNull(greeting.answer),
        inArray(greeting.address, addresses),
      ),
    );
}

/** Lists the names and addresses of a list's leads who can sign in. */
export function listLeadsOf(db: Queries, listId: string) {
  return db
    .select({ name: account.name, email: account.email })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead"), accountInForce));
}
