import { alphabetical } from "../db/alphabetical";
import { or, eq, sql, and } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { template } from "../db/schema/drafts";
import { cleanHtml } from "./draftHtml";

/** Lists an account's templates and those that are shared. */
export function listShownTemplates(db: Queries, accountId: string) {
  return db
    .select()
    .from(template)
    .where(or(eq(template.accountId, accountId), eq(template.shared, true)))
    .orderBy(alphabetical(template.name))
    .limit(200);
}

/** Removes an account's template of a name. */
export async function removeTemplateNamed(
  db: Queries,
  accountId: string,
  name: string,
): Promise<void> {
  await db
    .delete(template)
    .where(and(eq(template.accountId, accountId), sql`lower(${template.name}) = lower(${name})`));
}

/** Stores a template, and returns it. */
export function storeTemplate(
  db: Queries,
  body: Pick<typeof template.$inferInsert, "name" | "subject" | "html" | "shared">,
  accountId: string,
) {
  return db
    .insert(template)
    .values({ ...body, html: cleanHtml(body.html), accountId })
    .returning();
}

/** Removes one's own template, and returns it. */
export async function removeTemplateOf(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .delete(template)
    .where(and(eq(template.id, id), eq(template.accountId, accountId)))
    .returning({ id: template.id });
  return found;
}
