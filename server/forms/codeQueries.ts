import { eq, and } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { formCode } from "../db/schema/forms";

/** Lists for which students a form has a code, and which. */
export function listCodes(db: Queries, formId: string) {
  return db
    .select({ student: formCode.student, code: formCode.code })
    .from(formCode)
    .where(eq(formCode.formId, formId));
}

/** Stores codes by which families sign up. */
export async function storeCodes(
  db: Queries,
  codes: { formId: string; student: string; code: string }[],
): Promise<void> {
  await db.insert(formCode).values(codes).onConflictDoNothing();
}

/** Returns for which student a code is. */
export async function findCode(db: Queries, code: string, formId: string) {
  const [found] = await db
    .select({ student: formCode.student })
    .from(formCode)
    .where(and(eq(formCode.code, code), eq(formCode.formId, formId)));
  return found;
}
