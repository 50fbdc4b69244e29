import { createHash, randomBytes } from "node:crypto";

/** A secret of 256 bits to hand out. */
export function makeToken(): string {
  return randomBytes(32).toString("base64url");
}

/** A secret of 160 bits in small letters and digits, for the left part of an address. */
export function makePlainToken(): string {
  return randomBytes(20).toString("hex");
}

/** How a secret is stored: enough to know it again, not to use it. */
export function hashToken(token: string): string {
  return createHash("sha256").update(token).digest("hex");
}
