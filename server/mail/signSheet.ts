import type { ToSign } from "@amigo/core/mail/dkim";
import { filledHeader, type OpenMold, type SheetCopy } from "../posting/noteSheet";
import type { DkimKey } from "./dkimKey";
import { hashOf, signed, toSignOf } from "./prepareCopy";

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
  dkim: DkimKey,
): (copy: SheetCopy, domain: string, now: Date) => Promise<Buffer> {
  let prepared: { toSign: ToSign; domain: string; at: number } | undefined;
  return async (copy, domain, now) => {
    if (prepared?.domain !== domain || now.getTime() - prepared.at > FRESH)
      prepared = {
        toSign: toSignOf(mold.header, domain, HASH_MARK, now),
        domain,
        at: now.getTime(),
      };
    const { field, data } = prepared.toSign;
    const body = Buffer.from(mold.body(copy), "latin1");
    const hash = hashOf(body);
    const signature = await signed(
      field.replace(HASH_MARK, hash),
      filledHeader(data.replace(HASH_MARK, hash), copy),
      dkim,
    );
    const header = filledHeader(mold.header, copy);
    return Buffer.concat([Buffer.from(`${signature}${header}`, "latin1"), body]);
  };
}
