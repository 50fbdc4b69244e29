import { type getTemplates, type postTemplate, type deleteTemplate } from "@amigo/contract/drafts";
import type { Context } from "../context";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { cleanHtml } from "./draftHtml";
import {
  listShownTemplates,
  removeTemplateNamed,
  storeTemplate,
  removeTemplateOf,
} from "./templateQueries";

/** Returns texts to begin a mail with. */
export async function listTemplates(
  { db }: Context,
  { caller }: Request<typeof getTemplates>,
): Promise<Answer<typeof getTemplates>> {
  const rows = await listShownTemplates(db, caller.id);
  return rows.map(({ id, name, subject, html, shared, accountId }) => ({
    id,
    name,
    subject,
    html: cleanHtml(html),
    shared,
    mine: accountId === caller.id,
  }));
}

/** Stores a text to begin mails with. */
export async function saveTemplate(
  { db }: Context,
  { body, caller }: Request<typeof postTemplate>,
): Promise<Answer<typeof postTemplate>> {
  if (body.shared && caller.role !== "coordinator")
    throw new Refusal(403, "template/shared", t("drafts.templatesOfTheWholeHouse"), "shared");
  const [made] = await db.transaction(async (tx) => {
    await removeTemplateNamed(tx, caller.id, body.name);
    return storeTemplate(tx, body, caller.id);
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

/** Removes a text to begin mails with. */
export async function removeTemplate(
  { db }: Context,
  { params, caller }: Request<typeof deleteTemplate>,
): Promise<Answer<typeof deleteTemplate>> {
  const gone = await removeTemplateOf(db, params.id, caller.id);
  if (gone === undefined) throw notFound("template");
  return { done: true as const };
}
