import { eq } from "drizzle-orm";
import { record } from "../events/record";
import { removeSecondSteps } from "../twoStep/queries";
import { account } from "../db/schema/accounts";
import { removeSessions } from "../accounts/queries";
import { onDatabase } from "../db/onDatabase";

/**
 * Removes the authenticator app, passkeys and recovery codes of an account, for when the only coordinator has lost all of them.
 *
 * @throws Error with a sentence where there is no such account, or no database
 */
export async function resetTwoStep(
  databaseUrl: string | undefined,
  email: string,
): Promise<string> {
  return onDatabase(databaseUrl, async (tx) => {
    const [found] = await tx
      .select({ id: account.id, name: account.name })
      .from(account)
      .where(eq(account.email, email.trim().toLowerCase()));
    if (found === undefined) throw new Error(`There is no account for ${email}.`);
    await removeSecondSteps(tx, found.id);
    await removeSessions(tx, found.id);
    await record(tx, {
      actor: "Amigo",
      action: "reset two-step sign-in",
      sentence: () => `The two-step sign-in of ${found.name} was reset at the command line`,
    });
    return `${found.name} signs in with the password alone now, until they set up two-step sign-in again.`;
  });
}
