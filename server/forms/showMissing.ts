import { orRefuse } from "../http/fault";
import type { getMissing } from "@amigo/contract/forms";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { missingFor } from "./missing";
import { loadVisibleForm } from "./loadVisibleForm";

/** Returns the students of a form's classes who have no answer yet, or whose address fails. */
export async function showMissing(
  { db }: Context,
  { params, caller }: Request<typeof getMissing>,
): Promise<Answer<typeof getMissing>> {
  return missingFor(db, orRefuse(await loadVisibleForm(db, params.id, caller)), caller);
}
