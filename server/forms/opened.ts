import { createHash, createHmac, timingSafeEqual } from "node:crypto";

/** The proof that a form was opened at a time, to be sent back with it. Only whoever has the house's key can make one. */
export function provenOpening(key: string, at: number): string {
  const time = at.toString(36);
  return `${time}.${createHmac("sha256", createHash("sha256").update(`forms ${key}`).digest())
    .update(time)
    .digest("base64url")
    .slice(0, 22)}`;
}

/** For how long a form was open, in milliseconds; 0 where nothing proves that it was opened at all. */
export function openFor(key: string, proof: string, now: number): number {
  const at = parseInt(proof.split(".")[0] ?? "", 36);
  if (!Number.isSafeInteger(at)) return 0;
  const [wanted, given] = [Buffer.from(provenOpening(key, at)), Buffer.from(proof)];
  return given.length === wanted.length && timingSafeEqual(given, wanted)
    ? Math.max(0, now - at)
    : 0;
}
