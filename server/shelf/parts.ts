import type { Queries } from "../db/connect";
import { storeOf, storeParts, type Keeping } from "./blobQueries";

/** How many octets one row holds. */
export const PART = 1024 * 1024;
/** How many rows are written at once. */
const AT_ONCE = 4;

/** Cuts a stream into parts of the size of a row, whatever the size of its chunks; the last one is what is left. */
export async function* inParts(stream: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
  let part = Buffer.allocUnsafe(PART);
  let filled = 0;
  for await (const chunk of stream)
    for (let at = 0; at < chunk.length;) {
      const length = Math.min(PART - filled, chunk.length - at);
      part.set(chunk.subarray(at, at + length), filled);
      filled += length;
      at += length;
      if (filled < PART) continue;
      yield part;
      part = Buffer.allocUnsafe(PART);
      filled = 0;
    }
  if (filled > 0) yield part.subarray(0, filled);
}

/** Told of each group of parts in the transaction that writes them. */
export type Written = (
  tx: Queries,
  group: { first: number; parts: number; octets: number },
) => Promise<void>;

/**
 * Writes parts in groups, one group while the next comes together.
 *
 * @param first where among the parts of the octets the first one stands
 */
export function writerOf(keeping: Keeping, blobId: string, first: number, onWritten?: Written) {
  const store = storeOf(keeping, blobId);
  // It is waited for with the first group.
  store.catch(() => undefined);
  let parts: Buffer[] = [];
  let [position, size] = [first, 0];
  let writing = Promise.resolve();
  const write = async (): Promise<void> => {
    await writing;
    const [start, group] = [position, parts];
    position += group.length;
    parts = [];
    const octets = group.reduce((sum, { length }) => sum + length, 0);
    writing = storeParts(keeping.db, await store, blobId, start, group, (tx) =>
      onWritten?.(tx, { first: start, parts: group.length, octets }),
    );
    // It is waited for before the next; until then, its failure isn't one that nobody sees.
    writing.catch(() => undefined);
  };
  return {
    add: async (part: Buffer): Promise<void> => {
      size += part.length;
      if (parts.push(part) === AT_ONCE) await write();
    },
    /** Returns how many octets were written, once all are. */
    end: async (): Promise<number> => {
      if (parts.length > 0) await write();
      await writing;
      return size;
    },
    /** Waits until nothing is written any more, whether it succeeded or not. */
    settle: () => writing.catch(() => undefined),
  };
}
