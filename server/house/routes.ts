import { day } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { postDemoEmpty } from "@amigo/contract/accounts";
import { emptyDemo } from "./emptyDemo";
import { wantedLists } from "@amigo/core/lists/wantedLists";
import { connect as connectTcp } from "node:net";
import { and, count, desc, eq, ilike, isNotNull, isNull, lt, or, sql } from "drizzle-orm";
import type { Hono } from "hono";
import Papa from "papaparse";
import { harmlessCell } from "@amigo/core/sheet/harmlessCell";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import type { FactIndex } from "@amigo/core/facts/indexFacts";
import type { RecipeValue } from "@amigo/core/lists/recipe";
import { understoodAudience } from "@amigo/core/lists/understood";
import { fillPattern, readPattern } from "@amigo/core/naming/pattern";
import { proposeSiteCode } from "@amigo/core/naming/shortForm";
import { staffId } from "@amigo/core/step/carryByHand";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { PRECEDENCE } from "@amigo/core/identity/precedence";
import { LIMITS } from "@amigo/core/step/guards/limits";
import {
  deleteToken,
  getFind,
  getHealth,
  getHouse,
  getJournal,
  getTokens,
  JournalWanted,
  postToken,
  putBasics,
  putLimits,
} from "@amigo/contract/house";
import { hashToken, makeToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { houseIndex } from "../facts/standing";
import { notFound, Refusal } from "../http/fault";
import { basicsOf, changeBasics } from "./changeBasics";
import { find } from "./find";
import { pictureRoutes } from "./picture";
import { needCaller, route } from "../http/route";
import { refuseStale, versionOf } from "../http/version";
import type { Caller } from "../callers/caller";
import { record } from "../journal/record";
import { waitsForAddresses } from "../membership/nameWanted";
import { entriesOf } from "../membership/scope";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { house, season, site } from "../db/schema/house";
import { account, apiToken } from "../db/schema/accounts";
import { cohort, list, listRole } from "../db/schema/lists";
import { journal } from "../db/schema/journal";

/** For how many years an API token may work. */
const MOST_YEARS = 2;
const yearsOn = (day: string, years: number): string =>
  `${Number(day.slice(0, 4)) + years}${day.slice(4)}`;

const ENTRIES_AT_ONCE = 60;
const MOST_EXPORTED = 100_000;

export function houseRoutes(app: Hono, context: Context): void {
  const { db, settings } = context;

  route(app, context, getHealth, async ({ http }) => {
    const relay = new URL(settings.relay);
    const [database, smtp, relayUp] = await Promise.all([
      db.execute(sql`select 1`).then(
        () => true,
        () => false,
      ),
      greets(settings.smtpHost, settings.smtpPort),
      greets(
        relay.hostname,
        Number(relay.port || (relay.protocol === "smtps:" ? 465 : 25)),
        relay.protocol === "smtps:",
      ),
    ]);
    const well = database && smtp && relayUp;
    if (!well) http.status(503);
    return {
      status: well ? ("ok" as const) : ("failing" as const),
      database,
      smtp,
      relay: relayUp,
    };
  });

  route(app, context, postDemoEmpty, async () => {
    const { loadDemo } = await import("@amigo/demo/loadDemo");
    await emptyDemo(db, loadDemo);
    return { done: true as const };
  });

  route(app, context, getHouse, async () => {
    const [own] = await db.select().from(house);
    if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
    const [current] = await db
      .select({ id: season.id, label: season.label })
      .from(season)
      .where(eq(season.current, true));
    // A season whose opening was taken back is neither current nor over.
    const seasons = await db
      .select({ label: season.label, current: season.current, lists: count(list.id) })
      .from(season)
      .leftJoin(list, eq(list.seasonId, season.id))
      .where(or(eq(season.current, true), isNotNull(season.overOn)))
      .groupBy(season.id)
      .orderBy(desc(season.label));
    const sites = await db
      .select({ code: site.code, name: site.name, classes: count(cohort.id) })
      .from(site)
      .leftJoin(
        cohort,
        and(
          eq(cohort.siteId, site.id),
          isNull(cohort.goneAt),
          eq(cohort.seasonId, current?.id ?? 0),
        ),
      )
      .groupBy(site.id)
      .orderBy(site.name);
    const index = await houseIndex(db, current?.id ?? 0);
    const lists = await db
      .select({
        recipeId: list.recipeId,
        count: count(),
        apart: sql<number>`count(*) filter (where cardinality(${list.apart}) > 0)`.mapWith(Number),
      })
      .from(list)
      .where(and(eq(list.seasonId, current?.id ?? 0), isNull(list.closedAt)))
      .groupBy(list.recipeId);
    const waiting = new Map<number, number>();
    for (const own of wantedLists(index).values())
      if (own.open && own.recipe !== undefined && waitsForAddresses(own, index))
        waiting.set(own.recipe, (waiting.get(own.recipe) ?? 0) + 1);
    const byRecipe = new Map(lists.map((row) => [row.recipeId, row]));
    const accounts = await db
      .select({
        id: account.id,
        name: account.name,
        email: account.email,
        role: account.role,
        site: site.name,
        leads: count(list.id),
      })
      .from(account)
      .leftJoin(listRole, eq(listRole.accountId, account.id))
      .leftJoin(list, and(eq(list.id, listRole.listId), isNull(list.closedAt)))
      .leftJoin(site, eq(site.id, account.siteId))
      .where(accountInForce)
      .groupBy(account.id, site.name)
      .orderBy(account.createdAt);
    return {
      name: own.name,
      insideDomain: own.insideDomain,
      listDomain: own.listDomain,
      timeZone: own.timeZone,
      kind: own.kind,
      country: own.country,
      language: own.language,
      studentAddress: own.studentAddress,
      seasons,
      sites,
      recipes: [...index.recipes]
        .sort((x, y) => x[1].position - y[1].position || x[0] - y[0])
        .map(([id, value]) => {
          const understood = understoodAudience(value.audience);
          const example = exampleName(value, index, {
            codes: new Map(sites.map((row) => [row.name, row.code])),
            season: current?.label ?? "",
          });
          return {
            id,
            value,
            sentence: understood.ok
              ? say(audienceSentence(understood.audience))
              : say(understood.fault.sentence),
            lists: byRecipe.get(id)?.count ?? 0,
            apart: byRecipe.get(id)?.apart ?? 0,
            waiting: waiting.get(id) ?? 0,
            example: example === "" ? "" : `${example}@${own.listDomain}`,
          };
        }),
      staff: accounts.map(({ id, name }) => ({ id: staffId(id), name })),
      limits: { ...LIMITS, ...own.limits },
      versions: {
        basics: versionOf(basicsOf(own, sites)),
        limits: versionOf({ ...LIMITS, ...own.limits }),
      },
      twoStep: own.twoStep,
      precedence: PRECEDENCE.map(({ words }) => say(words)),
      accounts: accounts.map(({ id: _, site: at, role, ...row }) => ({
        ...row,
        role: at === null ? role : `${role}, ${at}`,
      })),
    };
  });

  pictureRoutes(app, context);

  route(app, context, putBasics, async ({ body, caller }) => {
    const changed = await changeBasics(db, caller, body);
    await context.desk.run("reopenRound", undefined);
    return changed;
  });

  route(app, context, putLimits, async ({ body: { version, ...body }, caller }) => {
    await db.transaction(async (tx) => {
      const [before] = await tx.select({ limits: house.limits }).from(house).for("update");
      refuseStale({ ...LIMITS, ...before?.limits }, version);
      await tx.update(house).set({ limits: body });
      await tx.update(season).set({ version: sql`${season.version} + 1` });
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change limits",
        sentence: t("house.changedTheSafetyChecks", { name: caller.name }),
        before: before?.limits,
        after: body,
      });
    });
    await context.desk.run("reopenRound", undefined);
    return { version: versionOf(body) };
  });

  route(app, context, getTokens, async () => {
    const rows = await db
      .select({
        id: apiToken.id,
        name: apiToken.name,
        by: account.name,
        createdAt: apiToken.createdAt,
        scopes: apiToken.scopes,
        lastDay: apiToken.lastDay,
        lastUsedAt: apiToken.lastUsedAt,
      })
      .from(apiToken)
      .innerJoin(account, eq(account.id, apiToken.accountId))
      .where(and(isNull(apiToken.revokedAt), eq(apiToken.forMailProgram, false)))
      .orderBy(desc(apiToken.createdAt));
    return rows.map((row) => ({
      ...row,
      createdAt: row.createdAt.toISOString(),
      lastUsedAt: row.lastUsedAt?.toISOString() ?? null,
    }));
  });

  route(app, context, postToken, async ({ body, caller }) => {
    const [own] = await db.select({ timeZone: house.timeZone }).from(house);
    const today = dayIn(own?.timeZone ?? "UTC", new Date());
    if (body.lastDay < today || body.lastDay > yearsOn(today, MOST_YEARS))
      throw new Refusal(
        422,
        "token/last-day",
        t("house.chooseALastDayFrom", { most: MOST_YEARS }),
        "lastDay",
      );
    const token = `amigo_${makeToken()}`;
    const [made] = await db
      .insert(apiToken)
      .values({
        name: body.name,
        tokenHash: hashToken(token),
        accountId: caller.id,
        scopes: body.scopes,
        lastDay: body.lastDay,
      })
      .returning({ id: apiToken.id });
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "make token",
      sentence: t("house.madeTheApiTokenUntil", {
        name: caller.name,
        token: body.name,
        lastDay: day(body.lastDay),
        scopes: body.scopes.join(", "),
      }),
    });
    return { id: made?.id ?? "", token };
  });

  route(app, context, deleteToken, async ({ params, caller }) => {
    const [gone] = await db
      .update(apiToken)
      .set({ revokedAt: sql`now()` })
      .where(and(eq(apiToken.id, params.id), isNull(apiToken.revokedAt)))
      .returning({ name: apiToken.name });
    if (gone === undefined) throw notFound("token");
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "revoke token",
      sentence: t("house.revokedTheApiToken", { name: caller.name, token: gone.name }),
    });
    return { done: true as const };
  });

  route(app, context, getJournal, async ({ query, caller }) => {
    const rows = await journalEntries(db, caller, query, ENTRIES_AT_ONCE + 1);
    const actions = await db
      .selectDistinct({ action: journal.action })
      .from(journal)
      .where(and(sql`${journal.action} <> 'members'`, entriesOf(caller)))
      .orderBy(journal.action);
    return {
      entries: rows.slice(0, ENTRIES_AT_ONCE).map((row) => ({ ...row, at: row.at.toISOString() })),
      more: rows.length > ENTRIES_AT_ONCE,
      actions: actions.map(({ action }) => action),
    };
  });

  app.get("/api/journal/export", async (http) => {
    const caller = await needCaller(http, context, "see the journal");
    const wanted = JournalWanted.safeParse(http.req.query());
    if (!wanted.success) throw new Refusal(400, "bad-request", t("house.theJournalIsAskedFor"));
    const rows = await journalEntries(db, caller, wanted.data, MOST_EXPORTED);
    const text = Papa.unparse(
      [
        [t("house.time"), t("house.who"), t("shared.what"), t("house.entry")],
        ...rows.map(({ at, actor, action, sentence }) =>
          [at.toISOString(), actor, action, sentence].map(harmlessCell),
        ),
      ],
      { newline: "\r\n" },
    );
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "export journal",
      sentence: t("house.exportedTheJournal", { name: caller.name }),
    });
    return http.body(`\uFEFF${text}\r\n`, 200, {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": 'attachment; filename="journal.csv"',
      "Cache-Control": "no-store",
    });
  });

  route(app, context, getFind, ({ query, caller }) => find(db, caller, query.q));
}

/** Entries of the journal that somebody may read, newest first, that are by somebody, of a kind, hold a word, and are of some days. */
async function journalEntries(
  db: Queries,
  caller: Caller,
  { before, actor = "", action = "", q = "", from, to }: JournalWanted,
  most: number,
) {
  const [own] = await db.select({ timeZone: house.timeZone }).from(house);
  const zone = own?.timeZone ?? "UTC";
  const day = sql`(${journal.at} at time zone ${zone})::date`;
  return db
    .select({
      id: journal.id,
      at: journal.at,
      actor: journal.actor,
      action: journal.action,
      sentence: journal.sentence,
    })
    .from(journal)
    .where(
      and(
        sql`${journal.action} <> 'members'`,
        entriesOf(caller),
        before === undefined ? undefined : lt(journal.id, before),
        actor === "" ? undefined : ilike(journal.actor, `%${escaped(actor)}%`),
        action === "" ? undefined : eq(journal.action, action),
        q === "" ? undefined : ilike(journal.sentence, `%${escaped(q)}%`),
        from === undefined ? undefined : sql`${day} >= ${from}::date`,
        to === undefined ? undefined : sql`${day} <= ${to}::date`,
      ),
    )
    .orderBy(desc(journal.id))
    .limit(most);
}

/** A text in which nothing stands for anything else in a pattern of LIKE. */
function escaped(text: string): string {
  return text.replace(/[\\%_]/g, "\\$&");
}

/** A name as a recipe makes it, for the first class or so that it is for; empty where its pattern can not be read. */
function exampleName(
  value: RecipeValue,
  index: FactIndex,
  { codes, season: label }: { codes: ReadonlyMap<string, string>; season: string },
): string {
  const cohort = [...index.cohorts.values()].find(({ kind }) => kind === value.each);
  if (
    cohort === undefined &&
    (value.each === "class" || value.each === "team" || value.each === "committee")
  )
    return "";
  const site = cohort?.site ?? [...codes.keys()][0] ?? "";
  const read = readPattern(value.pattern);
  const of =
    cohort?.name ??
    (value.each === "site" ? site : value.each === "level" ? "level 4" : value.label);
  return read.ok
    ? fillPattern(
        read.pieces,
        {
          site: site === "" ? "" : (codes.get(site) ?? proposeSiteCode(site)),
          of,
          audience: value.label,
          season: label,
          lead: cohort?.coach ?? "",
        },
        index.shorts,
      )
    : "";
}

/** Whether something at a port greets as a mail server does (RFC 5321, section 3.1), within two seconds. */
function greets(host: string, port: number, tls = false): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connectTcp({
      host: host === "0.0.0.0" ? "127.0.0.1" : host,
      port,
      timeout: 2000,
    });
    const answer = (well: boolean): void => {
      socket.destroy();
      resolve(well);
    };
    socket.once("data", (data) => {
      socket.write("QUIT\r\n");
      answer(data.toString("latin1").startsWith("220"));
    });
    if (tls) socket.once("connect", () => answer(true));
    socket.once("timeout", () => answer(false));
    socket.once("error", () => answer(false));
  });
}
