import { createHash } from "node:crypto";
import type { ByteRange } from "@amigo/core/shelf/byteRange";
import type { Database } from "../db/connect";
import { isTaken } from "../db/isTaken";
import {
  readPart,
  removeBlob,
  storeBlobRow,
  storePart,
  useBlobAgain,
  finishBlob,
} from "./blobQueries";

/** How many octets one row holds. */
const PART = 1024 * 1024;

/** Octets that are kept, by their id and size. */
export interface StoredBlob {
  id: string;
  size: number;
}

/**
 * Keeps what comes in, row by row, so that no more than one part of it is in memory. It counts once it is whole: what breaks off
 * leaves nothing. The same octets are kept once.
 *
 * @throws whatever the stream fails with
 */
export async function storeBlob(
  db: Database,
  stream: AsyncIterable<Uint8Array>,
): Promise<StoredBlob> {
  const id = await storeBlobRow(db);
  try {
    const hash = createHash("sha256");
    let [size, position] = [0, 0];
    for await (const part of inParts(stream)) {
      hash.update(part);
      await storePart(db, id, position++, part);
      size += part.length;
    }
    return await finish(db, id, hash.digest("hex"), size);
  } catch (failure) {
    await removeBlob(db, id).catch(() => undefined);
    throw failure;
  }
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

/** Returns kept octets, or a part of them, as a stream that fetches a row whenever it is read on. */
export function readBlob(
  db: Database,
  { id }: StoredBlob,
  { first, last }: ByteRange,
): ReadableStream<Uint8Array> {
  let at = first;
  return new ReadableStream<Uint8Array>(
    {
      pull: async (controller) => {
        const position = Math.floor(at / PART);
        const content = at > last ? undefined : await readPart(db, id, position);
        if (content === undefined) {
          controller.close();
          return;
        }
        const from = at - position * PART;
        const part = content.subarray(from, Math.min(content.length, from + last - at + 1));
        at += part.length;
        if (part.length > 0) controller.enqueue(part);
        else controller.close();
      },
    },
    { highWaterMark: 1 },
  );
}
