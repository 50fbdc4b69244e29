import {
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  type KeyObject,
} from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Settings } from "../settings";

/** By what the key is named in the DNS: `amigo._domainkey` below the list domain. */
export const SELECTOR = "amigo";

const HANDLES = 8;

export interface DkimKey {
  /** The key, in one of several handles that are used in turn: signing holds a lock on its handle, and others would wait for it. */
  next: () => KeyObject;
  /** As PEM, for what wants it so. */
  pem: string;
  /** The public half as the DNS record has it (RFC 6376, section 3.6.1). */
  record: string;
}

/**
 * The key by which the mail of lists is signed. Made on first start and kept where only this program's user can read it; of
 * several processes that start at once one makes it and the others read it.
 *
 * @throws Error with a sentence when the file is there but holds no private RSA key
 */
export function dkimKey(settings: Pick<Settings, "data" | "dkimKey">): DkimKey {
  const file = settings.dkimKey ?? join(settings.data, "dkim.pem");
  if (settings.dkimKey === undefined) makeOnce(settings.data, file);
  const pem = readFileSync(file, "utf8");
  try {
    const key = createPrivateKey(pem);
    if (key.asymmetricKeyType !== "rsa") throw new Error("it is no RSA key");
    const handles = Array.from({ length: HANDLES }, () => createPrivateKey(pem));
    let turn = 0;
    return {
      next: () => handles[turn++ % HANDLES] ?? key,
      pem,
      record: `v=DKIM1; k=rsa; p=${createPublicKey(key).export({ type: "spki", format: "der" }).toString("base64")}`,
    };
  } catch (failure) {
    throw new Error(
      `${file} holds no private RSA key in PEM form (${failure instanceof Error ? failure.message : String(failure)}). Put one there, or take the file away and a new one is made.`,
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
