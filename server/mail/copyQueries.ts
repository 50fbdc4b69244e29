import { eq, inArray, sql } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { readOctets } from "../db/copyOctets";
import { house } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { message, post } from "../db/schema/posts";
import { insideDomains } from "../db/insideDomains";

/** Larger messages come by COPY: an ordinary query takes several times their size. */
const LARGE = 256 * 1024;

/** Returns messages as they were stored, with what fills their fields, by their ids. */
export async function findMessages(db: Database, ids: readonly string[]) {
  const rows = await db
    .select({
      id: message.id,
      isLarge: sql<boolean>`octet_length(${message.raw}) > ${LARGE}`,
      raw: sql<Buffer>`case when octet_length(${message.raw}) <= ${LARGE} then ${message.raw} end`,
      at: message.at,
      messageId: message.messageId,
      arc: message.arc,
      merge: message.merge,
      mold: message.mold,
    })
    .from(message)
    .where(inArray(message.id, [...ids]));
  const found = new Map<string, Omit<(typeof rows)[number], "isLarge">>();
  for (const { isLarge, ...row } of rows)
    found.set(row.id, isLarge ? { ...row, raw: await readLarge(db, row.id) } : row);
  return found;
}

/** Returns a large message; nothing in it where it was removed meanwhile. */
async function readLarge(db: Database, id: string): Promise<Buffer> {
  const [raw] = await readOctets(
    db,
    sql`select ${message.raw} from ${message} where ${message.id} = ${sql.raw(`'${id}'`)}`,
  );
  return raw ?? Buffer.alloc(0);
}

/** Returns what the header and footer of copies say about a list. */
export async function findCopyList(db: Queries, id: string) {
  const [row] = await db
    .select({ id: list.id, name: list.name, title: list.title, rules: list.rules })
    .from(list)
    .where(eq(list.id, id));
  return row;
}

/** Returns what the header of copies says about who wrote a post. */
export async function findCopyPost(db: Queries, id: string) {
  const [row] = await db
    .select({
      id: post.id,
      fromName: post.fromName,
      fromAddress: post.fromAddress,
      reaches: post.reaches,
      asList: post.asList,
    })
    .from(post)
    .where(eq(post.id, id));
  return row;
}

/** Returns the domain of the lists, those of the school's own addresses, and its name. */
export async function findDomains(db: Queries) {
  const [row] = await db
    .select({
      listDomain: house.listDomain,
      name: house.name,
      languageParts: house.languageParts,
    })
    .from(house);
  return {
    ...(row ?? { listDomain: "localhost", name: "Amigo", languageParts: false }),
    insideDomains: await insideDomains(db),
  };
}
