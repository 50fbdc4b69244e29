import { randomBytes, scrypt, timingSafeEqual } from "node:crypto";

const COST = { N: 16384, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };
const LENGTH = 32;

/** Hashes a password with scrypt (RFC 7914) and a salt of its own. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password, salt);
  return `scrypt$${COST.N}$${COST.r}$${COST.p}$${salt.toString("base64")}$${key.toString("base64")}`;
}

/** Whether a password is the one that was hashed. Takes as long for a wrong one. */
export async function passwordMatches(password: string, hashed: string): Promise<boolean> {
  const [, , , , salt = "", key = ""] = hashed.split("$");
  const wanted = Buffer.from(key, "base64");
  const given = await derive(password, Buffer.from(salt, "base64"));
  return wanted.length === given.length && timingSafeEqual(wanted, given);
}

function derive(password: string, salt: Buffer): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    scrypt(password.normalize("NFKC"), salt, LENGTH, COST, (failure, key) =>
      failure === null ? resolve(key) : reject(failure),
    );
  });
}
