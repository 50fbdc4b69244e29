import { createHash } from "node:crypto";
import type { Queries } from "../db/connect";
import { findOldest, listLinks, listUnlinked, type StoredLink } from "./chainQueries";

/** How many links are looked at together. */
const TOGETHER = 5000;

/** Where the chain ends. Whoever has noted it elsewhere can tell later whether anything before it was written anew. */
export interface ChainEnd {
  place: number;
  /** In hexadecimal digits. */
  hash: string;
}

/** What a look at the whole chain found. */
export interface ChainFound {
  entries: number;
  /** Entries that aren't there any more, as they were over their time. */
  removed: number;
  /** Entries out of which personal data was taken. */
  changed: number;
  end: ChainEnd;
  /** What is wrong, and at which entry; empty where the journal is as it was written. */
  faults: string[];
}

/** The SHA-256 of a link: of the hash of the one before and of all that it holds, numbers as 64 bits, big-endian. */
export function hashOfLink(before: Buffer, link: Omit<StoredLink, "now" | "hash">): Buffer {
  const numbers = Buffer.alloc(24);
  numbers.writeBigInt64BE(BigInt(link.place), 0);
  numbers.writeBigInt64BE(BigInt(link.entryId), 8);
  numbers.writeBigInt64BE(BigInt(link.atMicros), 16);
  const isChange = Buffer.of(link.isChange ? 1 : 0);
  return createHash("sha256")
    .update(Buffer.concat([before, numbers, isChange, link.content]))
    .digest();
}

/**
 * Looks at the whole journal: whether each link holds the hash of the one before, and whether each entry says what the last link
 * about it says. Entries over their time are gone, and no others.
 *
 * @param known an end that an earlier look found, which must still be in the chain
 */
export async function verifyChain(db: Queries, known?: ChainEnd): Promise<ChainFound> {
  const faults: string[] = [];
  let before: Buffer = Buffer.alloc(0);
  let [place, removed, changed] = [0, 0, 0];
  // What was removed over time is older than all that is left.
  const oldest = await findOldest(db);
  const entries = new Set<number>();
  for (;;) {
    const links = await listLinks(db, place, TOGETHER);
    if (links.length === 0) break;
    for (const link of links) {
      if (link.place !== place + 1) faults.push(`Link ${place + 1} of the chain is missing.`);
      if (!hashOfLink(before, link).equals(link.hash))
        faults.push(`Link ${link.place} of the chain, about entry ${link.entryId}, was changed.`);
      if (known?.place === link.place && known.hash !== link.hash.toString("hex"))
        faults.push(
          `Link ${link.place} isn't the one that was noted: what is before it was written anew.`,
        );
      [before, place] = [link.hash, link.place];
      entries.add(link.entryId);
      if (link.isChange) changed++;
      if (link.isLast && link.now === null) {
        removed++;
        if (link.atMicros >= oldest) faults.push(`Entry ${link.entryId} is missing.`);
      }
      if (link.isLast && link.now !== null && !link.now.equals(link.content))
        faults.push(`Entry ${link.entryId} doesn't say what was written.`);
    }
  }
  for (const id of await listUnlinked(db)) faults.push(`Entry ${id} isn't in the chain.`);
  if (known !== undefined && known.place > place)
    faults.push(`The chain ends at link ${place}, before link ${known.place} that was noted.`);
  return {
    entries: entries.size,
    removed,
    changed,
    end: { place, hash: before.toString("hex") },
    faults,
  };
}
