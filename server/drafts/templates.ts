import { or, eq, sql, and } from "drizzle-orm";
import { type getTemplates, type postTemplate, type deleteTemplate } from "@amigo/contract/drafts";
import type { Context } from "../context";
import { template } from "../db/schema/drafts";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { cleanHtml } from "./draftHtml";

export async function listTemplates(
  { db }: Context,
  { caller }: Request<typeof getTemplates>,
): Promise<Answer<typeof getTemplates>> {
  const rows = await db
    .select()
    .from(template)
    .where(or(eq(template.accountId, caller.id), eq(template.shared, true)))
    .orderBy(sql`lower(${template.name})`)
    .limit(200);
  return rows.map(({ id, name, subject, html, shared, accountId }) => ({
    id,
    name,
    subject,
    html: cleanHtml(html),
    shared,
    mine: accountId === caller.id,
  }));
}

export async function saveTemplate(
  { db }: Context,
  { body, caller }: Request<typeof postTemplate>,
): Promise<Answer<typeof postTemplate>> {
  if (body.shared && caller.role !== "coordinator")
    throw new Refusal(403, "template/shared", t("drafts.templatesOfTheWholeHouse"), "shared");
  const [made] = await db.transaction(async (tx) => {
    await tx
      .delete(template)
      .where(
        and(eq(template.accountId, caller.id), sql`lower(${template.name}) = lower(${body.name})`),
      );
    return tx
      .insert(template)
      .values({ ...body, html: cleanHtml(body.html), accountId: caller.id })
      .returning();
  });
  if (made === undefined) throw notFound("template");
  return {
    id: made.id,
    name: made.name,
    subject: made.subject,
    html: made.html,
    shared: made.shared,
    mine: true,
  };
}

export async function removeTemplate(
  { db }: Context,
  { params, caller }: Request<typeof deleteTemplate>,
): Promise<Answer<typeof deleteTemplate>> {
  const [gone] = await db
    .delete(template)
    .where(and(eq(template.id, params.id), eq(template.accountId, caller.id)))
    .returning({ id: template.id });
  if (gone === undefined) throw notFound("template");
  return { done: true as const };
}
