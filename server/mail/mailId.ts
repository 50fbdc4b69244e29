import { randomBytes } from "node:crypto";

/** Signs that nobody mistakes for each other. */
const SIGNS = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
const LENGTH = 10;

/** Returns a new id for an incoming mail, short enough to be read out. */
export function newMailId(): string {
  return [...randomBytes(LENGTH)].map((octet) => SIGNS[octet % SIGNS.length]).join("");
}
