import { eq } from "drizzle-orm";
import { connect } from "../db/connect";
import { record } from "../events/record";
import { removeSecondSteps } from "../twoStep/queries";
import { account } from "../db/schema/accounts";
import { removeSessions } from "../accounts/queries";

/**
 * Removes the authenticator app, passkeys and recovery codes of an account, for when the only coordinator has lost all of them. Works
 * on the database, so whoever can run it has the whole house in hand already.
 *
 * @throws Error with a sentence where there is no such account, or no database
 */
export async function resetTwoStep(
  databaseUrl: string | undefined,
  email: string,
): Promise<string> {
  if (databaseUrl === undefined || databaseUrl === "")
    throw new Error(
      "Set AMIGO_DATABASE_URL to the address of the database, as the program itself has it.",
    );
  const connection = connect(databaseUrl);
  try {
    return await connection.db.transaction(async (tx) => {
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
        sentence: `The two-step sign-in of ${found.name} was reset at the command line`,
      });
      return `${found.name} signs in with the password alone now, until they set up two-step sign-in again.`;
    });
  } finally {
    await connection.close();
  }
}
