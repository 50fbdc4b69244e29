import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { pipeline } from "node:stream/promises";
import * as z from "zod";

/** The file in an archive that says what else is in it. */
export const MANIFEST = "manifest.json";
export const DUMP = "amigo.dump";
export const KEY = "house-key.pem";

/** What an archive says of itself. */
export const Manifest = z.object({
  /** Of the archive's own form. */
  format: z.literal(1),
  /** The version of Amigo that made it, and when. */
  amigo: z.string(),
  at: z.string(),
  house: z.string(),
  /** When the last update of the schema in it was made, in milliseconds since 1970. */
  schema: z.number(),
  /** Where files on shelves are, if not in the archive. */
  shelfStore: z.string(),
  /** The SHA-256 of each other file in it, in hexadecimal. */
  files: z.record(z.string(), z.string()),
});
export type Manifest = z.output<typeof Manifest>;

/** Returns the SHA-256 of a file, in hexadecimal. */
export async function checksumOf(path: string): Promise<string> {
  const hash = createHash("sha256");
  await pipeline(createReadStream(path), hash);
  return hash.digest("hex");
}
