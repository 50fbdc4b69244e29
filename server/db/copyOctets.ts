import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { sql, type SQL } from "drizzle-orm";
import { PgDialect } from "drizzle-orm/pg-core";
import { from as copyFrom, to as copyTo } from "pg-copy-streams";
import { clientOf } from "./clientOf";
import type { Database, Queries } from "./connect";

/*
 * Octets to and from the database by COPY in its binary format (PostgreSQL, COPY, file formats). An ordinary query would bring each
 * octet as two digits, and would have each parameter copied several times.
 */

/** What a binary COPY begins with: its signature, flags, and the length of what else the header holds. */
const SIGNATURE = Buffer.from("PGCOPY\n\xff\r\n\0", "latin1");
const HEADER = SIGNATURE.length + 4 + 4;
/** The count of fields that says that no more rows follow. */
const END = -1;

/**
 * Returns the octets of one column of some rows, in their order.
 *
 * @param query selects one column of octets without a null; it can hold no parameters
 */
export async function readOctets(db: Database, query: SQL): Promise<Buffer[]> {
  const { sql: text, params } = new PgDialect().sqlToQuery(
    sql`copy (${query}) to stdout (format binary)`,
  );
  if (params.length > 0) throw new Error("a COPY can't have parameters");
  const client = await db.$client.connect();
  try {
    const chunks: Buffer[] = [];
    for await (const chunk of client.query(copyTo(text))) chunks.push(chunk as Buffer);
    client.release();
    return fieldsIn(Buffer.concat(chunks));
  } catch (failure) {
    // A connection in the midst of a COPY is of no more use.
    client.release(true);
    throw failure;
  }
}

function fieldsIn(copied: Buffer): Buffer[] {
  const fields: Buffer[] = [];
  let at = HEADER + copied.readUInt32BE(HEADER - 4);
  while (copied.readInt16BE(at) !== END) {
    const length = copied.readInt32BE(at + 2);
    at += 6 + length;
    fields.push(copied.subarray(at - length, at));
  }
  return fields;
}

/**
 * Adds rows of a UUID, a whole number of 32 bits and octets, in the transaction that is given.
 *
 * @param into the table with its three columns: `blob_part (blob_id, position, content)`
 */
export async function writeOctets(
  tx: Queries,
  into: string,
  rows: readonly { id: string; position: number; content: Buffer }[],
): Promise<void> {
  const end = Buffer.alloc(2);
  end.writeInt16BE(END);
  const written = rows.flatMap(({ id, position, content }) => [
    beginning(id, position, content),
    content,
  ]);
  await pipeline(
    Readable.from([SIGNATURE, Buffer.alloc(HEADER - SIGNATURE.length), ...written, end]),
    clientOf(tx).query(copyFrom(`copy ${into} from stdin (format binary)`)),
  );
}

/** What stands before the octets of a row: three fields, each with its length before it. */
function beginning(id: string, position: number, content: Buffer): Buffer {
  const uuid = Buffer.from(id.replaceAll("-", ""), "hex");
  const fields = Buffer.alloc(2 + 4 + uuid.length + 4 + 4 + 4);
  let at = fields.writeInt16BE(3);
  at = fields.writeInt32BE(uuid.length, at);
  at += uuid.copy(fields, at);
  at = fields.writeInt32BE(4, at);
  at = fields.writeInt32BE(position, at);
  fields.writeInt32BE(content.length, at);
  return fields;
}
