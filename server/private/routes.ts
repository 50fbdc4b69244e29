import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/indexFacts";
import { fold } from "@amigo/core/text/fold";
import { searchTerms } from "@amigo/core/text/searchTerms";
import {
  deletePrivateList,
  getPersonHits,
  getPrivateList,
  getPrivateLists,
  postPrivateList,
  putPrivateList,
  type PrivateListPage,
} from "@amigo/contract/private";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound, Refusal } from "../http/fault";
import { route } from "../http/route";
import { addressesFor, type Whom } from "../membership/addressesFor";
import { knownPeople } from "../membership/knownPeople";
import { t } from "../texts/t";
import { privateList, privateListPerson } from "../db/schema/lists";

const HITS = 12;
/** So many are found where several are looked for at once. */
const MANY_HITS = 200;

/** Lists that only their owner knows of. Every request looks for the asker's own alone; what belongs to another is not there. */
export function privateRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getPrivateLists, async ({ caller }) => {
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
  });

  route(app, context, getPrivateList, async ({ params, caller }) =>
    loadPage(db, params.id, caller),
  );

  route(app, context, postPrivateList, async ({ body, caller }) => {
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
  });

  route(app, context, putPrivateList, async ({ params, body, caller }) => {
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
  });

  route(app, context, deletePrivateList, async ({ params, caller }) => {
    await ownList(db, params.id, caller);
    await db.transaction(async (tx) => {
      await tx.delete(privateListPerson).where(eq(privateListPerson.privateListId, params.id));
      await tx.delete(privateList).where(eq(privateList.id, params.id));
    });
    return { done: true as const };
  });

  route(app, context, getPersonHits, async ({ query, caller }) => {
    const terms = searchTerms(query.q);
    if (terms.length === 0) return [];
    const known = await knownPeople(db, caller);
    const hits = new Set<Person>();
    for (const person of known.people.values()) {
      const pieces = fold(`${nameOf(person)} ${person.number}`).split(" ");
      const fits = (words: readonly string[]): boolean =>
        words.every((word) =>
          word.includes("@")
            ? person.addresses.has(word)
            : pieces.some((piece) => piece.startsWith(word)),
        );
      if (terms.some(fits)) hits.add(person);
    }
    return [...hits]
      .sort((a, b) => nameOf(a).localeCompare(nameOf(b), "en"))
      .slice(0, terms.length === 1 ? HITS : MANY_HITS)
      .map((person) => {
        const addresses = addressesFor(person, known, "guardians");
        return {
          id: person.id,
          name: nameOf(person),
          detail: detailOf(person, known),
          reached: addresses.length > 0,
          child: person.role === "student",
          addresses,
        };
      });
  });
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

/** What somebody is, in a few words: a student's classes, a guardian's children. */
function detailOf(person: Person, index: FactIndex): string {
  if (person.role === "staff") return t("privateLists.staff");
  if (person.role === "guardian")
    return t("shared.guardianOf", {
      students: each([...person.ties.keys()].map((id) => nameOf(index.people.get(id)))),
    });
  const classes = [...person.cohorts].map((key) => index.cohorts.get(key)?.name ?? "");
  return t("privateLists.studentOf", { classes: say(each(classes)) || t("shared.noClass") });
}
