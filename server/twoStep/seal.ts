import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from "node:crypto";

/** Octets of the nonce and of the tag that AES-GCM puts beside a text (NIST SP 800-38D). */
const NONCE = 12;
const TAG = 16;

/**
 * Seals a secret that must be read again, so that whoever has only the database can't read it: AES-256-GCM under a key derived
 * from the house's own (HKDF, RFC 5869).
 *
 * @param pem the house's own key
 * @param about what the secret belongs to; it is opened for nothing else
 */
export function seal(pem: string, about: string, secret: string): string {
  const nonce = randomBytes(NONCE);
  const cipher = createCipheriv("aes-256-gcm", keyOf(pem), nonce).setAAD(Buffer.from(about));
  const text = Buffer.concat([cipher.update(secret, "utf8"), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), text]).toString("base64url");
}

/** Opens what was sealed; undefined where it was sealed with another key, for something else, or was changed. */
export function unseal(pem: string, about: string, sealed: string): string | undefined {
  const octets = Buffer.from(sealed, "base64url");
  if (octets.length < NONCE + TAG) return undefined;
  const decipher = createDecipheriv("aes-256-gcm", keyOf(pem), octets.subarray(0, NONCE), {
    authTagLength: TAG,
  })
    .setAAD(Buffer.from(about))
    .setAuthTag(octets.subarray(NONCE, NONCE + TAG));
  try {
    return Buffer.concat([
      decipher.update(octets.subarray(NONCE + TAG)),
      decipher.final(),
    ]).toString("utf8");
  } catch {
    return undefined;
  }
}

function keyOf(pem: string): Buffer {
  return Buffer.from(hkdfSync("sha256", pem, "", "secrets in the database", 32));
}
