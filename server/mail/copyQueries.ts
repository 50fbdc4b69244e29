import { eq, inArray } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { house } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { message, post } from "../db/schema/posts";
import { insideDomains } from "../db/insideDomains";

/** Returns messages as they were stored, with what fills their fields, by their ids. */
export async function findMessages(db: Queries, ids: readonly string[]) {
  const rows = await db
    .select({
      id: message.id,
      raw: message.raw,
      at: message.at,
      messageId: message.messageId,
      arc: message.arc,
      merge: message.merge,
      mold: message.mold,
    })
    .from(message)
    .where(inArray(message.id, [...ids]));
  return new Map(rows.map((row) => [row.id, row]));
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
