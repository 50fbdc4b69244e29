import { scrypt, timingSafeEqual } from "node:crypto";
import { hash, verify } from "@node-rs/argon2";

/** Argon2id (RFC 9106) with 19 MiB and two passes; the parameters stand in front of each hash, so that they can be raised. */
const PARAMETERS = {
  // Argon2id: the package names it in an enum that this compiler setting does not let through.
  algorithm: 2,
  memoryCost: 19_456,
  timeCost: 2,
  parallelism: 1,
} as const;
const PREFIX = `$argon2id$v=19$m=${PARAMETERS.memoryCost},t=${PARAMETERS.timeCost},p=${PARAMETERS.parallelism}$`;

/** Hashes a password with a salt of its own, in the PHC string format. */
export function hashPassword(password: string): Promise<string> {
  return hash(password.normalize("NFKC"), PARAMETERS);
}

/** Whether a password is the one that was hashed, by the parameters that stand in the hash. */
export async function passwordMatches(password: string, hashed: string): Promise<boolean> {
  if (hashed.startsWith("scrypt$")) return matchesScrypt(password, hashed);
  return hashed.startsWith("$argon2") && verify(hashed, password.normalize("NFKC"));
}

/** Whether a hash was made by an older way or weaker parameters, and is to be made again when the password is known. */
export function isOutdated(hashed: string): boolean {
  return !hashed.startsWith(PREFIX);
}

/** Hashes from before Argon2id: scrypt (RFC 7914). */
function matchesScrypt(password: string, hashed: string): Promise<boolean> {
  const [, n, r, p, salt = "", key = ""] = hashed.split("$");
  const wanted = Buffer.from(key, "base64");
  return new Promise((resolve, reject) => {
    scrypt(
      password.normalize("NFKC"),
      Buffer.from(salt, "base64"),
      wanted.length,
      { N: Number(n), r: Number(r), p: Number(p), maxmem: 64 * 1024 * 1024 },
      (failure, given) =>
        failure === null ? resolve(timingSafeEqual(wanted, given)) : reject(failure),
    );
  });
}
