import { createHash } from "node:crypto";
import type { ByteRange } from "@amigo/core/shelf/byteRange";
import type { Database } from "../db/connect";
import { isTaken } from "../db/isTaken";
import {
  readParts,
  removeBlob,
  storeBlobRow,
  storeParts,
  useBlobAgain,
  finishBlob,
} from "./blobQueries";

/** How many octets one row holds. */
const PART = 1024 * 1024;
/** How many rows are written or read at once. */
const AT_ONCE = 4;

/** Octets that are kept, by their id and size. */
export interface StoredBlob {
  id: string;
  size: number;
}

/**
 * Keeps what comes in, a few rows at a time, so that no more than those are in memory: while they are written, the next come in. It counts once it is whole: what breaks off
 * leaves nothing. The same octets are kept once.
 *
 * @throws whatever the stream fails with
 */
export async function storeBlob(
  db: Database,
  stream: AsyncIterable<Uint8Array>,
): Promise<StoredBlob> {
  const id = await storeBlobRow(db);
  const hash = createHash("sha256");
  const writer = writerOf(db, id);
  try {
    for await (const part of inParts(stream)) {
      hash.update(part);
      await writer.add(part);
    }
    return await finish(db, id, hash.digest("hex"), await writer.end());
  } catch (failure) {
    await writer.settle();
    await removeBlob(db, id).catch(() => undefined);
    throw failure;
  }
}

/** Writes parts in groups, one group while the next comes together. */
function writerOf(db: Database, id: string) {
  let parts: Buffer[] = [];
  let [position, size] = [0, 0];
  let writing = Promise.resolve();
  const write = async (): Promise<void> => {
    await writing;
    const [first, group] = [position, parts];
    position += group.length;
    parts = [];
    writing = storeParts(db, id, first, group);
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

/** Makes it whole; where the same octets are kept already, those are used. */
async function finish(db: Database, id: string, hash: string, size: number): Promise<StoredBlob> {
  try {
    await finishBlob(db, id, hash, size);
    return { id, size };
  } catch (failure) {
    if (!isTaken(failure)) throw failure;
    const known = await useBlobAgain(db, hash);
    if (known === undefined) throw failure;
    await removeBlob(db, id);
    return { id: known, size };
  }
}

/** Cuts a stream into parts of the size of a row, whatever the size of its chunks; the last one is what is left. */
async function* inParts(stream: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
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

/** Returns kept octets, or a part of them, as a stream that has the next rows fetched while those before are sent. */
export function readBlob(
  db: Database,
  { id }: StoredBlob,
  { first, last }: ByteRange,
): ReadableStream<Uint8Array> {
  let at = first;
  let rows: Buffer[] = [];
  const end = Math.floor(last / PART);
  let next = Math.floor(first / PART);
  const fetch = (): Promise<Buffer[]> => {
    const from = next;
    next = Math.min(from + AT_ONCE, end + 1);
    const fetched = from >= next ? Promise.resolve([]) : readParts(db, id, from, next - 1);
    fetched.catch(() => undefined);
    return fetched;
  };
  let coming: Promise<Buffer[]> | undefined;
  return new ReadableStream<Uint8Array>(
    {
      pull: async (controller) => {
        if (rows.length === 0 && at <= last) {
          rows = await (coming ?? fetch());
          coming = fetch();
        }
        const content = at > last ? undefined : rows.shift();
        if (content === undefined) {
          controller.close();
          return;
        }
        const from = at % PART;
        const part = content.subarray(from, Math.min(content.length, from + last - at + 1));
        at += part.length;
        controller.enqueue(part);
      },
    },
    { highWaterMark: 0 },
  );
}
