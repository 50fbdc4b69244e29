import { filledHeader, type OpenMold, type SheetCopy } from "../posting/noteSheet";
import type { Signer } from "./mailKeys";
import { hashOf, signaturesOf, signed, type OpenSignature } from "./prepareCopy";

/** Stands for the hash of a copy's body; no other header holds it. */
const HASH_MARK = "\u0001hash\u0001";
/** For how long what is prepared is used again, in milliseconds: it holds when it was signed, by the second. */
const FRESH = 10_000;

/**
 * Prepares the copies of a mail of Amigo's own to many: what is to be signed of their headers is put together once, and what a copy
 * has for itself is put into it.
 *
 * @returns what gives a whole copy, signed (RFC 6376)
 */
export function sheetSigner(
  mold: OpenMold,
  signersNow: () => readonly Signer[],
): (copy: SheetCopy, domain: string, now: Date) => Promise<Buffer> {
  let prepared:
    { by: readonly Signer[]; signatures: OpenSignature[]; domain: string; at: number } | undefined;
  return async (copy, domain, now) => {
    const by = signersNow();
    if (prepared?.domain !== domain || prepared.by !== by || now.getTime() - prepared.at > FRESH)
      prepared = {
        by,
        signatures: signaturesOf(by, mold.header, domain, HASH_MARK, now),
        domain,
        at: now.getTime(),
      };
    const body = Buffer.from(mold.body(copy), "latin1");
    const hash = hashOf(body);
    const signatures = await signed(
      prepared.signatures.map(({ signer, field, data }) => ({
        signer,
        field: field.replace(HASH_MARK, hash),
        data: filledHeader(data.replace(HASH_MARK, hash), copy),
      })),
    );
    const header = filledHeader(mold.header, copy);
    return Buffer.concat([Buffer.from(`${signatures}${header}`, "latin1"), body]);
  };
}
