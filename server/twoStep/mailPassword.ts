import { Refused, refused } from "../refused";
import { needsTwoSteps } from "@amigo/core/access/twoStep";
import { checkPassword, recordFailure, signInLimits, tooManySignIns } from "../accounts/signIn";
import type { Database } from "../db/connect";
import { countTry, forgiveTry } from "../http/limitTries";
import { t } from "../texts/t";
import { findTwoStepNeed, useMailPassword } from "./queries";

/** How the password of a mail program begins, and for how many days it works. */
export const MAIL_PASSWORD = "mail_";

/**
 * Checks what a mail program gives at the submission port (RFC 4954): the password that was made for it, or the account's own where
 * the account signs in by that alone.
 *
 * @param from the network of the caller, for the limit on attempts
 * Refused with 401 or 429, 403 where the account signs in with two steps.
 */
export async function checkMailPassword(
  db: Database,
  email: string,
  password: string,
  from: string,
): Promise<{ id: string } | Refused> {
  if (!password.startsWith(MAIL_PASSWORD)) {
    const found = await checkPassword(db, email, password, from);
    if (found instanceof Refused) return found;
    const twoStepNeed = await findTwoStepNeed(db, found.id);
    if (
      twoStepNeed === undefined ||
      twoStepNeed.hasSecondStep ||
      needsTwoSteps(twoStepNeed.twoStep, twoStepNeed.role)
    )
      return refused(403, "sign-in/mail-program", t("twoStep.thisAccountSignsInWith"));
    return found;
  }
  const counted = await countTry(db, signInLimits(email, from));
  if (counted === undefined) return tooManySignIns();
  const found = await useMailPassword(db, password, email);
  if (found === undefined) {
    await recordFailure(db, email, from);
    return refused(401, "sign-in/wrong", t("accounts.addressAndPasswordDoNot"));
  }
  await forgiveTry(db, counted);
  return found;
}
