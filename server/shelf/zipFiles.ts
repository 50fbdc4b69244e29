import { Zip, ZipPassThrough } from "fflate";
import { safeName } from "../sandbox/safeName";
import type { Keeping } from "./blobQueries";
import { readBlob } from "./blobs";

/** A file that goes into an archive. */
export interface FileToZip {
  /** The folder in it; empty for none. */
  folder: string;
  name: string;
  blobId: string;
  size: number;
}

/** A ZIP archive without its newer extension counts its octets in 32 bits; this leaves room for its directory. */
export const MOST_IN_ZIP = 4_000_000_000;

/** Returns files as one ZIP archive, as a stream that reads on as it is read. They are stored as they are: most are compressed already. */
export function zipFiles(
  keeping: Keeping,
  files: readonly FileToZip[],
): ReadableStream<Uint8Array> {
  const chunks = chunksOf(keeping, files);
  return new ReadableStream<Uint8Array>(
    {
      pull: async (controller) => {
        const { done, value } = await chunks.next();
        if (done === true) controller.close();
        else controller.enqueue(value);
      },
      cancel: async () => {
        await chunks.return(undefined);
      },
    },
    { highWaterMark: 0 },
  );
}

async function* chunksOf(
  keeping: Keeping,
  files: readonly FileToZip[],
): AsyncGenerator<Uint8Array, undefined> {
  const made: Uint8Array[] = [];
  const zip = new Zip((failure, chunk) => {
    if (failure !== null) throw failure;
    made.push(chunk);
  });
  const names = namesOf(files);
  for (const [at, { blobId, size }] of files.entries()) {
    const entry = new ZipPassThrough(names[at] ?? "");
    zip.add(entry);
    if (size > 0)
      for await (const part of readBlob(
        keeping,
        { id: blobId, size },
        { first: 0, last: size - 1 },
      )) {
        entry.push(part, false);
        yield* made.splice(0);
      }
    entry.push(new Uint8Array(0), true);
    yield* made.splice(0);
  }
  zip.end();
  yield* made.splice(0);
  return undefined;
}

/** The names in the archive: of two that are the same, the second gets a number. */
function namesOf(files: readonly FileToZip[]): string[] {
  const used = new Set<string>();
  return files.map(({ folder, name }) => {
    const path = folder === "" ? "" : `${safeName(folder, 0)}/`;
    const [, bare = name, ending = ""] = /^(.+?)(\.[^.]+)?$/.exec(name) ?? [];
    let free = `${path}${name}`;
    for (let number = 2; used.has(free.toLowerCase()); number++)
      free = `${path}${bare} (${number})${ending}`;
    used.add(free.toLowerCase());
    return free;
  });
}
