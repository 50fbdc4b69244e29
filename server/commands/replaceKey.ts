import { record } from "../events/record";
import { forgetKeys } from "../mail/mailKeyQueries";
import { onDatabase } from "../db/onDatabase";

/**
 * Gives up the house's key after it was lost for good: the next start takes what is in its place, or makes a new one.
 *
 * @throws Error with a sentence where no database is named
 */
export async function replaceKey(databaseUrl: string | undefined): Promise<string> {
  return onDatabase(databaseUrl, async (tx) => {
    await forgetKeys(tx);
    await record(tx, {
      actor: "Amigo",
      action: "mail keys",
      sentence: () => "The house's key was given up at the command line",
    });
    return [
      "The house's key is given up. Start Amigo: it makes a new one.",
      "Then add the new DNS record for signatures (Settings, Mail).",
      "Links to leave a list in mails already sent no longer work, and whoever signs in with an authenticator app sets it up again: they get in by a passkey or a recovery code, or a coordinator resets it.",
    ].join("\n");
  });
}
