import { Refused } from "../refused";
import type { Context as HonoContext } from "hono";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { refuse, Refusal } from "../http/fault";
import { networkAddress } from "../http/networkAddress";
import { checkPassword } from "./signIn";
import { t } from "../texts/t";

/**
 * Makes sure that it is the owner of an account who changes how it signs in, and not somebody at their open browser.
 *
 * @param field the field of the request that holds the password
 * @throws Refusal 422 where it is another one, 429 after too many tries
 */
export async function confirmPassword(
  { db, settings }: Pick<Context, "db" | "settings">,
  http: HonoContext,
  caller: Caller,
  password: string,
  field: string,
): Promise<void> {
  const found = await checkPassword(db, caller.email, password, networkAddress(http, settings));
  if (found instanceof Refused && found.status === 401)
    throw new Refusal(422, "password/wrong", t("accounts.thisIsNotYourCurrent"), field);
  refuse(found);
}
