import { and, asc, desc, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { Hono } from "hono";
import { say } from "@amigo/language/say";
import { readAddress } from "@amigo/core/address/readAddress";
import { belongs } from "@amigo/core/audience/belongs";
import { becauseOf } from "@amigo/core/audience/becauseOf";
import { wantedList } from "@amigo/core/lists/wantedLists";
import { nameOf } from "@amigo/core/facts/indexFacts";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { fold } from "@amigo/core/text/fold";
import {
  deleteByHand,
  getByHand,
  getLeft,
  getPeople,
  postForget,
  getPerson,
  getQuestions,
  postAnswer,
  postJoin,
  postPart,
  putAddresses,
  type PersonPage,
} from "@amigo/contract/people";
import { type Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { factColumns } from "../facts/queries";
import { houseIndex } from "../facts/standing";
import { listsOf, peopleOf } from "../membership/scope";
import { evidenceOf } from "../membership/whoBelongs";
import { notFound, Refusal } from "../http/fault";
import { needCaller, route } from "../http/route";
import { record } from "../journal/record";
import { describeFacts, describeOrigins } from "../readings/origins";
import { personRecord } from "./personRecord";
import { familyOf, findFamilies, indexAround, leftPeople, listCounts } from "./queries";
import { timelineOf } from "./timeline";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import { house, season } from "../db/schema/house";
import { byHand, question, fact } from "../db/schema/people";
import { list, membership } from "../db/schema/lists";

export function peopleRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;
  const actorOf = (caller: Caller) => ({ id: caller.id, name: caller.name });

  route(app, context, getPeople, async ({ query, caller }) => {
    const seasonId = await currentSeason(db);
    return findFamilies(db, seasonId, query, peopleOf(caller, seasonId));
  });

  route(app, context, getLeft, async ({ query }) =>
    leftPeople(db, await currentSeason(db), query.q),
  );

  route(app, context, postForget, async ({ params, body, caller }) => {
    const [found] = await leftPeople(db, await currentSeason(db), "", params.id);
    if (found !== undefined && fold(found.name) !== fold(body.name))
      throw new Refusal(
        422,
        "people/name",
        t("people.typeTheNameAsIt", { name: found.name }),
        "name",
      );
    return desk.run("forgetPerson", { actor: actorOf(caller), person: params.id });
  });

  app.get("/api/people/:id/record", async (http) => {
    const caller = await needCaller(http, context, "export people");
    const all = await personRecord(db, http.req.param("id").slice(0, 100));
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "export person",
      sentence: t("people.exportedEverythingThatIsKept", { name: caller.name }),
    });
    return http.body(JSON.stringify(all, null, 2), 200, {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": 'attachment; filename="person.json"',
      "Cache-Control": "no-store",
    });
  });

  route(app, context, getPerson, async ({ params, caller }) => {
    const page = await loadPerson(db, caller, await currentSeason(db), params.id);
    if (page === undefined) throw notFound("person");
    return page;
  });

  route(app, context, putAddresses, async ({ params, body, caller }) => {
    await seen(db, caller, params.id);
    const addresses = body.addresses.map((written) => {
      const read = readAddress(written, new Map());
      if (read.answer !== "clean")
        throw new Refusal(422, "people/address", noAddress(written, read), "addresses");
      return read.address;
    });
    return desk.run("settleByHand", {
      actor: actorOf(caller),
      person: params.id,
      addresses: [...new Set(addresses)],
    });
  });
  route(app, context, postJoin, async ({ params, body, caller }) => {
    await seen(db, caller, params.id, body.other);
    return desk.run("joinPeople", { actor: actorOf(caller), one: params.id, other: body.other });
  });
  route(app, context, postPart, async ({ params, body, caller }) => {
    await seen(db, caller, params.id);
    return desk.run("partPerson", { actor: actorOf(caller), person: params.id, ...body });
  });
  route(app, context, deleteByHand, async ({ params, caller }) => {
    if (!(await saidOf(db, caller)).some(({ id }) => id === params.number)) throw notFound("entry");
    return desk.run("withdrawByHand", { actor: actorOf(caller), id: params.number });
  });

  route(app, context, getByHand, async ({ caller }) =>
    (await saidOf(db, caller)).map(({ id, sentence, by, at }) => ({
      id,
      sentence,
      by,
      at: at.toISOString(),
    })),
  );

  route(app, context, getQuestions, async ({ caller }) => {
    const rows = await db
      .select()
      .from(question)
      .where(await askedOf(db, caller))
      .orderBy(asc(question.position))
      .limit(500);
    const describe = await describeOrigins(
      db,
      rows.flatMap(({ sides }) => sides.flatMap(({ where }) => where ?? [])),
    );
    return rows.map(({ key, kind, about, sides, choices, meanwhile }) => ({
      key,
      kind,
      about,
      meanwhile,
      choices: choices.map(({ id, label }) => ({ id, label: say(label) })),
      sides: sides.map(({ title, lines, where }) => {
        const at = where === undefined ? undefined : describe(where);
        return {
          title: say(title),
          lines: lines.map(say),
          where: at?.text ?? "",
          source: at?.source ?? null,
        };
      }),
    }));
  });

  route(app, context, postAnswer, async ({ body, caller }) => {
    const [mine] = await db
      .select({ key: question.key })
      .from(question)
      .where(and(await askedOf(db, caller), eq(question.key, body.key)));
    if (mine === undefined && caller.role !== "coordinator") throw notFound("question");
    return desk.run("answerQuestion", { actor: actorOf(caller), ...body });
  });
}

/** Refuses what is asked of people whom the asker does not see, as if they were not there. */
async function seen(db: Queries, caller: Caller, ...people: readonly string[]): Promise<void> {
  const within = peopleOf(caller, await currentSeason(db));
  if (within === undefined) return;
  const { rows } = await db.execute(
    sql`select 1 from json_array_elements_text(${JSON.stringify(people)}::json) as meant(id) where id not in ${within}`,
  );
  if (rows.length > 0) throw notFound("person");
}

/** The open questions about people whom the asker sees. */
async function askedOf(db: Queries, caller: Caller): Promise<SQL | undefined> {
  const seasonId = await currentSeason(db);
  const within = peopleOf(caller, seasonId);
  return and(
    eq(question.seasonId, seasonId),
    within === undefined ? undefined : sql`${question.subject} in ${within}`,
  );
}

/** What was said by hand and holds, newest first: for a site coordinator what is about somebody whom they see. */
async function saidOf(db: Queries, caller: Caller): Promise<(typeof byHand.$inferSelect)[]> {
  const seasonId = await currentSeason(db);
  const within = peopleOf(caller, seasonId);
  return db
    .select()
    .from(byHand)
    .where(
      and(
        eq(byHand.seasonId, seasonId),
        isNull(byHand.endedAt),
        within === undefined
          ? undefined
          : sql`(${byHand.settled}->>'subject' in ${within} or exists (select 1 from regexp_split_to_table(${byHand.key}, '\s+') as word where word in ${within}))`,
      ),
    )
    .orderBy(desc(byHand.at))
    .limit(500);
}

async function currentSeason(db: Queries): Promise<number> {
  const [current] = await db.select({ id: season.id }).from(season).where(eq(season.current, true));
  if (current === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  return current.id;
}

async function loadPerson(
  db: Queries,
  caller: Caller,
  seasonId: number,
  id: string,
): Promise<PersonPage | undefined> {
  const index = await indexAround(db, seasonId, [id], peopleOf(caller, seasonId));
  const own = index.people.get(id);
  if (own === undefined) return undefined;
  const [settings] = await db.select({ insideDomain: house.insideDomain }).from(house);
  const family = familyOf(
    own,
    index,
    await listCounts(
      db,
      [...index.people.values()].flatMap(({ addresses }) => [...addresses]),
    ),
    settings?.insideDomain ?? "",
  );
  const person = family.people.find((one) => one.id === id);
  if (person === undefined) return undefined;
  const said = await saidOf(db, caller);
  return {
    family,
    person,
    ties: [...own.ties]
      .filter(([other]) => index.people.has(other))
      .map(([other, relationship]) => ({
        id: other,
        name: nameOf(index.people.get(other)),
        relationship,
      })),
    lists: await listsOfPerson(db, caller, seasonId, id),
    byHand: said
      .filter(({ key, settled }) => settled?.subject === id || key.includes(id))
      .map(({ id: number, sentence, by, at }) => ({
        id: number,
        sentence,
        by,
        at: at.toISOString(),
      })),
    timeline: await timelineOf(db, caller, seasonId, id),
  };
}

/** The lists, of those that the asker sees, on which somebody's addresses are, and why. */
async function listsOfPerson(
  db: Queries,
  caller: Caller,
  seasonId: number,
  id: string,
): Promise<PersonPage["lists"]> {
  const index = await indexAround(db, seasonId, [id]);
  const own = index.people.get(id);
  const addresses = [...(own?.addresses ?? [])];
  if (own === undefined || addresses.length === 0) return [];
  const lists = await houseIndex(db, seasonId);
  const rows = await db
    .select({
      id: list.id,
      title: list.title,
      address: membership.address,
      since: membership.validFrom,
      key: list.key,
    })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .where(
      and(
        isNull(membership.validUntil),
        isNull(list.closedAt),
        inArray(membership.address, addresses),
        listsOf(caller),
      ),
    )
    .orderBy(list.title);
  const evidence = (await db
    .select(factColumns)
    .from(fact)
    .where(
      and(eq(fact.seasonId, seasonId), isNull(fact.validUntil), eq(fact.subject, id)),
    )) as Fact[];
  const kept = await db
    .select({ list: fact.subject, address: fact.ref, value: fact.value })
    .from(fact)
    .where(and(isNull(fact.validUntil), eq(fact.kind, "kept"), inArray(fact.ref, addresses)));
  const where = await describeFacts(db, evidence);
  return rows.map(({ key: listKey, since, ...row }) => {
    const audience = wantedList(lists, listKey)?.audience;
    const reason = audience === undefined ? undefined : belongs(audience, own, index);
    const by = kept.find((entry) => entry.list === listKey && entry.address === row.address)?.value;
    const because =
      reason === undefined
        ? typeof by === "object" && "side" in by
          ? t("people.keptOnBy", { by: by.by, reason: by.reason })
          : t("people.somebodyElseAtThisAddress")
        : say(becauseOf(reason, index));
    const [at] = reason === undefined ? [] : evidenceOf(id, reason);
    return {
      ...row,
      because,
      where: at === undefined ? "" : (where.get(factKey(at)) ?? ""),
      since: since.toISOString(),
    };
  });
}
