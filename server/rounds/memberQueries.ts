import { and, eq, sql, isNull, inArray } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { listRole, greeting, membership } from "../db/schema/lists";

/** Lists whether an account leads a list. */
export function listLeadRoles(db: Queries, listId: string, accountId: string) {
  return db
    .select({ role: listRole.role })
    .from(listRole)
    .where(
      and(
        eq(listRole.listId, listId),
        eq(listRole.accountId, accountId),
        eq(listRole.role, "lead"),
      ),
    );
}

/** Stores a lead's answer to addresses that wait for one, and returns them. */
export function answerWaiting(db: Queries, yes: boolean, listId: string, ids: readonly string[]) {
  return db
    .update(greeting)
    .set({ answer: yes ? "yes" : "withdrawn", answeredAt: sql`now()` })
    .where(
      and(
        eq(greeting.listId, listId),
        eq(greeting.kind, "agree"),
        isNull(greeting.answer),
        inArray(greeting.id, [...ids]),
      ),
    )
    .returning();
}

/** Stores that an address wants to be on a list, and returns the question; undefined where it has answered already. */
export async function answerQuestionOf(db: Queries, id: string) {
  const [found] = await db
    .update(greeting)
    .set({ answer: "yes", answeredAt: sql`now()` })
    .where(and(eq(greeting.id, id), eq(greeting.kind, "ask"), isNull(greeting.answer)))
    .returning();
  return found;
}

/** Puts an address on a list to which it belongs. */
export async function storeMember(db: Queries, listId: string, address: string): Promise<void> {
  await db
    .insert(membership)
    .values({ listId, address, validFrom: sql`now()`, origin: "audience" })
    .onConflictDoNothing();
}

/** Puts addresses on a list, and stores whether they belong there or are always on it. */
export async function storeMembers(
  db: Queries,
  addresses: ReadonlySet<string>,
  listId: string,
  belonging: ReadonlySet<string>,
): Promise<void> {
  await db
    .insert(membership)
    .values(
      [...addresses].map((address) => ({
        listId,
        address,
        validFrom: sql`now()`,
        origin: belonging.has(address) ? ("audience" as const) : ("kept on" as const),
      })),
    )
    .onConflictDoNothing();
}

/** Takes addresses off a list. */
export async function endMembershipsOf(
  db: Queries,
  listId: string,
  addresses: string[],
): Promise<void> {
  await db
    .update(membership)
    .set({ validUntil: sql`now()` })
    .where(
      and(
        eq(membership.listId, listId),
        inArray(membership.address, addresses),
        isNull(membership.validUntil),
      ),
    );
}
