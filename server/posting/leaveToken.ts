import { createHash, createHmac, timingSafeEqual } from "node:crypto";
import { sql } from "drizzle-orm";
import { delivery } from "../db/schema/deliveries";

/**
 * Returns what stands in the leave link of one copy: which copy it is, and the proof that the link was made here. It is another
 * secret than the return path, which every mail server on the way sees.
 *
 * @param key the house's own key, as PEM
 */
export function leaveToken(key: string, copy: number): string {
  const id = copy.toString(36);
  const proof = createHmac("sha256", createHash("sha256").update(`leave ${key}`).digest())
    .update(id)
    .digest("base64url")
    .slice(0, 22);
  return `${id}.${proof}`;
}

/** The copy whose leave link holds a token; undefined where it was not made here. */
export function copyOfLeaveToken(key: string, token: string): number | undefined {
  const id = parseInt(token.split(".")[0] ?? "", 36);
  if (!Number.isSafeInteger(id) || id < 1) return undefined;
  const [wanted, given] = [Buffer.from(leaveToken(key, id)), Buffer.from(token)];
  return wanted.length === given.length && timingSafeEqual(wanted, given) ? id : undefined;
}

/** That the links and the return path of a copy still work: for a year after its post. */
export const isRecent = sql`${delivery.createdAt} > now() - interval '1 year'`;
