import type { putOwnLanguage } from "@amigo/contract/accounts";
import type { Context } from "../context";
import type { Answer, Request } from "../http/handler";
import { storeLanguage } from "./queries";

/** Stores in which language one reads the interface. */
export async function chooseLanguage(
  { db }: Context,
  { body, caller }: Request<typeof putOwnLanguage>,
): Promise<Answer<typeof putOwnLanguage>> {
  await storeLanguage(db, caller.id, body.language);
  return { done: true as const };
}
