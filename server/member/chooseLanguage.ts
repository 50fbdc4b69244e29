import type { putLanguage } from "@amigo/contract/member";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { keepLanguage } from "../texts/familyLanguage";

/** Keeps the language that a member has chosen, for their page and every mail that Amigo itself writes to them. */
export async function chooseLanguage(
  { db }: Context,
  { body, member }: Request<typeof putLanguage>,
): Promise<Answer<typeof putLanguage>> {
  await keepLanguage(db, member, body.language, "choice");
  return { done: true as const };
}
