import { createHash } from "node:crypto";
import type { ByteRange } from "@amigo/core/shelf/byteRange";
import { isTaken } from "../db/isTaken";
import {
  finishBlob,
  readParts,
  removeBlob,
  storeBlobRow,
  storeOf,
  useBlobAgain,
  type Keeping,
} from "./blobQueries";
import { inParts, PART, writerOf } from "./parts";

/** How many rows are read at once. */
const AT_ONCE = 4;

/** Octets that are kept, by their id and size. */
export interface StoredBlob {
  id: string;
  size: number;
}

/**
 * Keeps what comes in, a few rows at a time, so that no more than those are in memory: while they are written, the next come in.
 * It counts once it is whole: what breaks off leaves nothing. The same octets are kept once.
 *
 * @throws whatever the stream fails with
 */
export async function storeBlob(
  keeping: Keeping,
  stream: AsyncIterable<Uint8Array>,
): Promise<StoredBlob> {
  const id = await storeBlobRow(keeping.db, keeping.objects);
  const hash = createHash("sha256");
  const writer = writerOf(keeping, id, 0);
  try {
    for await (const part of inParts(stream)) {
      hash.update(part);
      await writer.add(part);
    }
    return await finish(keeping, id, hash.digest("hex"), await writer.end());
  } catch (failure) {
    await writer.settle();
    await removeBlob(keeping, id).catch(() => undefined);
    throw failure;
  }
}

/** Makes octets whole; where the same octets are kept already, those are used, and these go. */
export async function finish(
  keeping: Keeping,
  id: string,
  hash: string,
  size: number,
): Promise<StoredBlob> {
  for (;;) {
    try {
      await finishBlob(keeping.db, id, hash, size);
      return { id, size };
    } catch (failure) {
      if (!isTaken(failure)) throw failure;
    }
    const known = await useBlobAgain(keeping.db, hash);
    // Else they were removed at that moment, and these can take their place.
    if (known === undefined) continue;
    await removeBlob(keeping, id);
    return { id: known, size };
  }
}

/** Returns the SHA-256 of octets as they are kept, in hexadecimal. */
export async function hashOf(keeping: Keeping, blob: StoredBlob): Promise<string> {
  const hash = createHash("sha256");
  if (blob.size > 0)
    for await (const part of readBlob(keeping, blob, { first: 0, last: blob.size - 1 }))
      hash.update(part);
  return hash.digest("hex");
}

/** Returns kept octets, or a part of them, as a stream that has the next rows fetched while those before are sent. */
export function readBlob(
  keeping: Keeping,
  { id }: StoredBlob,
  { first, last }: ByteRange,
): ReadableStream<Uint8Array> {
  let at = first;
  let rows: Buffer[] = [];
  const end = Math.floor(last / PART);
  let next = Math.floor(first / PART);
  let store: ReturnType<typeof storeOf> | undefined;
  const read = async (from: number, to: number): Promise<Buffer[]> => {
    store ??= storeOf(keeping, id);
    return readParts(keeping.db, await store, id, from, to);
  };
  const fetch = (): Promise<Buffer[]> => {
    const from = next;
    next = Math.min(from + AT_ONCE, end + 1);
    const fetched = from >= next ? Promise.resolve([]) : read(from, next - 1);
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
