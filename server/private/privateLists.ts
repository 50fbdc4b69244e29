import { eq, asc, sql, and, inArray } from "drizzle-orm";
import {
  type getPrivateLists,
  type getPrivateList,
  type postPrivateList,
  type putPrivateList,
  type deletePrivateList,
  type PrivateListPage,
} from "@amigo/contract/private";
import { nameOf, type FactIndex } from "@amigo/core/facts/indexFacts";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { privateList, privateListPerson } from "../db/schema/lists";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { type Whom, addressesFor } from "../membership/addressesFor";
import { knownPeople } from "../membership/knownPeople";
import { t } from "../texts/t";
import { detailOf } from "./detailOf";

export async function listPrivateLists(
  { db }: Context,
  { caller }: Request<typeof getPrivateLists>,
): Promise<Answer<typeof getPrivateLists>> {
  const known = await knownPeople(db, caller);
  const rows = await db
    .select({ id: privateList.id, name: privateList.name, person: privateListPerson.person })
    .from(privateList)
    .leftJoin(privateListPerson, eq(privateListPerson.privateListId, privateList.id))
    .where(eq(privateList.accountId, caller.id))
    .orderBy(asc(sql`lower(${privateList.name})`));
  const lists = new Map<string, { id: string; name: string; people: number; gone: number }>();
  for (const { id, name, person } of rows) {
    const own = lists.get(id) ?? { id, name, people: 0, gone: 0 };
    lists.set(id, own);
    if (person === null) continue;
    own.people++;
    if (!known.people.has(person)) own.gone++;
  }
  return [...lists.values()];
}

export async function showPrivateList(
  { db }: Context,
  { params, caller }: Request<typeof getPrivateList>,
): Promise<Answer<typeof getPrivateList>> {
  return loadPage(db, params.id, caller);
}

export async function makePrivateList(
  { db }: Context,
  { body, caller }: Request<typeof postPrivateList>,
): Promise<Answer<typeof postPrivateList>> {
  const known = await knownPeople(db, caller);
  return db.transaction(async (tx) => {
    const [made] = await tx
      .insert(privateList)
      .values({ accountId: caller.id, name: body.name })
      .onConflictDoNothing()
      .returning({ id: privateList.id });
    if (made === undefined)
      throw new Refusal(
        409,
        "private/there",
        t("privateLists.youHaveAPrivateList", { name: body.name }),
        "name",
      );
    await put(tx, made.id, body.people, known);
    return made;
  });
}

export async function changePrivateList(
  { db }: Context,
  { params, body, caller }: Request<typeof putPrivateList>,
): Promise<Answer<typeof putPrivateList>> {
  await ownList(db, params.id, caller);
  const known = await knownPeople(db, caller);
  await db.transaction(async (tx) => {
    if (body.name !== undefined) {
      const [same] = await tx
        .select({ id: privateList.id })
        .from(privateList)
        .where(
          and(
            eq(privateList.accountId, caller.id),
            sql`lower(${privateList.name}) = lower(${body.name})`,
            sql`${privateList.id} <> ${params.id}`,
          ),
        );
      if (same !== undefined)
        throw new Refusal(
          409,
          "private/there",
          t("privateLists.youHaveAPrivateList", { name: body.name }),
          "name",
        );
      await tx.update(privateList).set({ name: body.name }).where(eq(privateList.id, params.id));
    }
    if (body.children !== undefined)
      await tx
        .update(privateList)
        .set({ children: body.children })
        .where(eq(privateList.id, params.id));
    await put(tx, params.id, body.add, known);
    if (body.remove.length > 0)
      await tx
        .delete(privateListPerson)
        .where(
          and(
            eq(privateListPerson.privateListId, params.id),
            inArray(privateListPerson.person, body.remove),
          ),
        );
  });
  return loadPage(db, params.id, caller);
}

export async function deletePrivateListOf(
  { db }: Context,
  { params, caller }: Request<typeof deletePrivateList>,
): Promise<Answer<typeof deletePrivateList>> {
  await ownList(db, params.id, caller);
  await db.transaction(async (tx) => {
    await tx.delete(privateListPerson).where(eq(privateListPerson.privateListId, params.id));
    await tx.delete(privateList).where(eq(privateList.id, params.id));
  });
  return { done: true as const };
}

async function ownList(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<{ id: string; name: string; children: Whom }> {
  const [own] = await db
    .select({ id: privateList.id, name: privateList.name, children: privateList.children })
    .from(privateList)
    .where(and(eq(privateList.id, id), eq(privateList.accountId, caller.id)));
  if (own === undefined) throw notFound("private list");
  return own;
}

async function loadPage(db: Queries, id: string, caller: Caller): Promise<PrivateListPage> {
  const own = await ownList(db, id, caller);
  const known = await knownPeople(db, caller);
  const rows = await db
    .select({ person: privateListPerson.person, name: privateListPerson.name })
    .from(privateListPerson)
    .where(eq(privateListPerson.privateListId, id));
  const persons = rows
    .map(({ person: subject, name }) => {
      const person = known.people.get(subject);
      return person === undefined
        ? { id: subject, name, detail: t("privateLists.noLongerHere"), addresses: [], gone: true }
        : {
            id: subject,
            name: nameOf(person),
            detail: detailOf(person, known),
            addresses: addressesFor(person, known, own.children),
            gone: false,
          };
    })
    .sort((a, b) => a.name.localeCompare(b.name, "en"));
  return {
    ...own,
    people: persons.length,
    gone: persons.filter(({ gone }) => gone).length,
    persons,
  };
}

async function put(
  tx: Queries,
  id: string,
  people: readonly string[],
  known: FactIndex,
): Promise<void> {
  const rows = [...new Set(people)].flatMap((subject) => {
    const person = known.people.get(subject);
    return person === undefined
      ? []
      : [{ privateListId: id, person: subject, name: nameOf(person) }];
  });
  if (rows.length > 0) await tx.insert(privateListPerson).values(rows).onConflictDoNothing();
}
