import type { postSetUp } from "@amigo/contract/accounts";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { networkAddress } from "../http/networkAddress";
import { t } from "../texts/t";
import { beginSession } from "./beginSession";
import { asksFromHere, setUpCode } from "./setUpCode";
import { setUpHouse } from "./setUpHouse";

/** How many set-up codes may be tried an hour from one network. */
const CODES_TRIED = 10;

/** Sets up an empty house, once. */
export async function setUp(
  context: Context,
  { body, http }: Request<typeof postSetUp>,
): Promise<Answer<typeof postSetUp>> {
  const { settings, db } = context;
  if (!asksFromHere(http)) {
    const from = networkAddress(http, settings);
    if (!(await isWithinTries(db, `set up from ${from}`, CODES_TRIED, 60)))
      throw new Refusal(429, "set-up/too-many", t("accounts.tooManyCodesWereTried"));
    if (body.code.toUpperCase() !== setUpCode(context.houseKey))
      throw new Refusal(403, "set-up/code", t("accounts.thisIsNotTheSet"), "code");
  }
  const id = orRefuse(await setUpHouse(db, body));
  await beginSession(context, http, id);
  return { done: true as const };
}
