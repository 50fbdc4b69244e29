import { createHash, randomInt } from "node:crypto";
import { Secret, TOTP } from "otpauth";

/** Octets of a shared secret, as RFC 4226, section 4, recommends. */
const SECRET_SIZE = 20;
/** How long one code stands, in seconds, and how many of its neighbours count too, for clocks that are not quite right (RFC 6238, sections 5.2 and 6). */
const PERIOD = 30;
const NEIGHBOURS = 1;
/** Letters and digits that nobody takes for one another, of recovery codes. */
const SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";
const RECOVERY_SIGNS = 12;
/** How many recovery codes an account gets at once. */
const RECOVERY_CODES = 10;

/** Makes the secret that an authenticator app shares, in base32 (RFC 4648, section 6). */
export function makeSecret(): string {
  return new Secret({ size: SECRET_SIZE }).base32;
}

/** The address that an authenticator app reads from a QR code. */
export function addressOf(secret: string, house: string, email: string): string {
  return totpOf(secret, house, email).toString();
}

/**
 * The step of time to which a code belongs (RFC 6238, section 4.2).
 *
 * @param now milliseconds since 1970
 * @returns undefined where the code is none of this time, or its step is not after the last one that was used
 */
export function stepOfCode(
  secret: string,
  code: string,
  lastStep: number,
  now: number,
): number | undefined {
  const typed = code.replace(/\s/g, "");
  if (!/^\d{6}$/.test(typed)) return undefined;
  const delta = totpOf(secret).validate({ token: typed, timestamp: now, window: NEIGHBOURS });
  if (delta === null) return undefined;
  const step = Math.floor(now / 1000 / PERIOD) + delta;
  return step > lastStep ? step : undefined;
}

/** The code of an authenticator app at a time, as tests and the demo need it. */
export function codeAt(secret: string, now: number): string {
  return totpOf(secret).generate({ timestamp: now });
}

function totpOf(secret: string, issuer = "", label = ""): TOTP {
  return new TOTP({
    issuer,
    label,
    secret: Secret.fromBase32(secret),
    algorithm: "SHA1",
    digits: 6,
    period: PERIOD,
  });
}

/** Makes recovery codes, each of 12 signs (59 bits) in three groups. */
export function makeRecoveryCodes(): string[] {
  return Array.from({ length: RECOVERY_CODES }, () => {
    const signs = Array.from({ length: RECOVERY_SIGNS }, () => SIGNS[randomInt(SIGNS.length)]);
    return (signs.join("").match(/.{4}/g) ?? []).join("-");
  });
}

/** How a recovery code is kept. It is long and random, so no slow hash is needed. Blanks, dashes and capitals don't matter. */
export function hashRecoveryCode(accountId: string, code: string): string {
  const typed = code.toLowerCase().replace(/[\s-]/g, "");
  return createHash("sha256").update(`${accountId} ${typed}`).digest("base64url");
}
