import { and, eq, sql, isNull, inArray } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { listRole, greeting } from "../db/schema/lists";

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
