import type { postDateImport } from "@amigo/contract/dateImport";
import type { Context } from "../context";
import { orRefuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { carryOutPlan, planImport } from "./planImport";

/**
 * Reads dates from a file and tells what would be done; with the plan that was shown, does it. Read again under its name, a fixture
 * list changes the dates that came from it: what isn't on it any more is called off.
 */
export async function importDates(
  { db }: Context,
  { body, caller }: Request<typeof postDateImport>,
): Promise<Answer<typeof postDateImport>> {
  const bytes = new Uint8Array(await body.file.arrayBuffer());
  const plan = orRefuse(await planImport(db, caller, bytes, body));
  return orRefuse(await carryOutPlan(db, caller, plan, body));
}
