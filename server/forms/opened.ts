import { createHash, createHmac, randomBytes, timingSafeEqual } from "node:crypto";

/** For how long a proof is good, in milliseconds: a form that was left open longer is sent once more. */
const LONGEST = 24 * 3_600_000;

/**
 * The proof that a form was opened at a time, to be sent back with it, once. Only whoever has the house's key can make one.
 *
 * @param mark what tells it from others of the same moment
 */
export function provenOpening(
  key: string,
  at: number,
  mark: string = randomBytes(6).toString("base64url"),
): string {
  const said = `${at.toString(36)}.${mark}`;
  return `${said}.${createHmac("sha256", createHash("sha256").update(`forms ${key}`).digest())
    .update(said)
    .digest("base64url")
    .slice(0, 22)}`;
}

/** For how long a form was open, in milliseconds; 0 where nothing proves that it was opened at all, or it was too long ago. */
export function openFor(key: string, proof: string, now: number): number {
  const [time = "", mark = ""] = proof.split(".");
  const at = parseInt(time, 36);
  if (!Number.isSafeInteger(at) || now - at > LONGEST) return 0;
  const [wanted, given] = [Buffer.from(provenOpening(key, at, mark)), Buffer.from(proof)];
  return given.length === wanted.length && timingSafeEqual(given, wanted)
    ? Math.max(0, now - at)
    : 0;
}
