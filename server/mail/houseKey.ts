import { createHash, createPrivateKey, createPublicKey, generateKeyPairSync } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Queries } from "../db/connect";
import type { Settings } from "../settings";
import { findFingerprint, keepFingerprint } from "./mailKeyQueries";

type KeySettings = Pick<Settings, "data" | "dkimKey">;

/**
 * Returns the house's own key, as PEM: by it secrets in the database are sealed and links in mails proven, and it was the first
 * that signed mail. Made on first start and kept where only this program's user can read it. The database remembers which it is,
 * so that a lost key is said and never replaced in silence.
 *
 * @throws Error with a sentence where the key is lost, is another than this house's, or is no private RSA key
 */
export async function openHouseKey(settings: KeySettings, db: Queries): Promise<string> {
  const file = keyFile(settings);
  const known = await findFingerprint(db);
  if (known !== undefined && !existsSync(file))
    throw new Error(
      `This house's key isn't in ${file}. Links in mails already sent and secrets in the database depend on it. Put the file back from your backup (${BACK}). If it is lost for good, run "npm run -s amigo -- key replace" and start again.`,
    );
  if (settings.dkimKey === undefined) makeOnce(settings.data, file);
  const pem = readFileSync(file, "utf8");
  const fingerprint = fingerprintOf(pem, file);
  // Of several processes that start at once on a new database, one says which key it is.
  const kept = known ?? (await keepFingerprint(db, fingerprint));
  if (kept !== fingerprint)
    throw new Error(
      `${file} holds another key than this house's. Put the house's file there (${BACK}); all machines of one house share it.`,
    );
  return pem;
}

const BACK = "it is called dkim.pem, or as AMIGO_DKIM_KEY says";

/** Where the house's key is. */
export function keyFile(settings: KeySettings): string {
  return settings.dkimKey ?? join(settings.data, "dkim.pem");
}

function fingerprintOf(pem: string, file: string): string {
  try {
    const key = createPrivateKey(pem);
    if (key.asymmetricKeyType !== "rsa") throw new Error("it is no RSA key");
    const open = createPublicKey(key).export({ type: "spki", format: "der" });
    return createHash("sha256").update(open).digest("base64url");
  } catch (failure) {
    throw new Error(
      `${file} holds no private RSA key in PEM form (${failure instanceof Error ? failure.message : String(failure)}). Put the house's key back there.`,
      { cause: failure },
    );
  }
}

function makeOnce(folder: string, file: string): void {
  if (existsSync(file)) return;
  mkdirSync(folder, { recursive: true });
  const { privateKey } = generateKeyPairSync("rsa", { modulusLength: 2048 });
  try {
    writeFileSync(file, privateKey.export({ type: "pkcs8", format: "pem" }), {
      mode: 0o600,
      flag: "wx",
    });
  } catch (failure) {
    if ((failure as NodeJS.ErrnoException).code !== "EEXIST") throw failure;
  }
}
