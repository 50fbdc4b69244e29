import { orRefuse } from "../http/fault";
import type { postEditPlan, postEdit } from "@amigo/contract/edits";
import { said } from "@amigo/language/say";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { editorOf } from "../rounds/editRights";

/** Returns what an edit of recipes, lists or names would do. */
export async function previewEdit(
  { desk }: Context,
  { body, caller }: Request<typeof postEditPlan>,
): Promise<Answer<typeof postEditPlan>> {
  return said(orRefuse(await desk.run("planEdit", { editor: editorOf(caller), edit: body.edit })));
}

/** Edits recipes, lists or names, as a round that can be undone. */
export async function makeEdit(
  { desk }: Context,
  { body, caller, long }: Request<typeof postEdit>,
): Promise<Answer<typeof postEdit>> {
  return orRefuse(await desk.run("carryOutEdit", { editor: editorOf(caller), ...body }, long));
}
