import { and, asc, desc, eq, gte, lt, sql } from "drizzle-orm";
import type { Hono } from "hono";
import type { z } from "zod";
import { say } from "@amigo/language/say";
import { sortWords } from "@amigo/core/mail/bounces/sortOf";
import { nextReading } from "@amigo/core/schedule/nextReading";
import { failingCells } from "@amigo/core/sheet/failingCells";
import { readAll } from "@amigo/core/sheet/readAll";
import { capital } from "@amigo/core/text/sentence";
import {
  getHelped,
  postRows,
  deleteCorrection,
  getCorrections,
  getReading,
  getReadingRows,
  getSamples,
  getSource,
  getSources,
  getWatched,
  Plan,
  postCorrection,
  postLook,
  getKnownWords,
  postMatch,
  postMeanings,
  postPosted,
  postPostedAddress,
  postReading,
  postReadNow,
  postSource,
  putSource,
  type ReadingPage,
  type SourceLine,
  type SourceSettings,
} from "@amigo/contract/sources";
import { SAMPLE_SHEETS } from "@amigo/demo/samples";
import { type Caller } from "../callers/caller";
import { knownWords } from "./knownWords";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { raiseVersion } from "../facts/queries";
import { notFound, Refusal } from "../http/fault";
import { needCaller, route, wrongWith } from "../http/route";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../journal/record";
import { fetchFor, keepItself } from "./keepItself";
import { watchedFiles } from "./fetchSheet";
import { ANSWER_FORMATS } from "./answerSheet";
import { newPostedAddress } from "./posted";
import { addRows, helpedSources } from "./addRows";
import type { FileToRead } from "./readFile";
import { correctionsOf, readingContext, readingLines, tablesOfReading } from "../readings/queries";
import { t } from "../texts/t";
import type { ReadingPlan, TableInSheet } from "@amigo/core/sheet/table";
import { house, season } from "../db/schema/house";
import { source, postedAnswer, readingRow, readingFault, correction } from "../db/schema/sources";
import { question } from "../db/schema/people";
import { addressTrouble } from "../db/schema/deliveries";

const ROWS_AT_ONCE = 500;

export function sourceRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;
  const actorOf = (caller: Caller) => ({ id: caller.id, name: caller.name });

  route(app, context, getSources, async () => sourceLines(db));

  route(app, context, getSource, async ({ params }) => {
    const [found] = await db
      .select({ id: source.id, name: source.name })
      .from(source)
      .where(eq(source.id, params.id));
    if (found === undefined) throw notFound("source");
    const lines = await readingLines(db, { source: found.id });
    return { ...found, plan: lines[0]?.plan ?? null, readings: lines.map(({ line }) => line) };
  });

  route(app, context, postSource, async ({ body, caller, long }) => {
    const { kind, location } = body;
    const read = await desk.run(
      "readFile",
      { actor: actorOf(caller), into: { name: body.name, kind }, file: await fileOf(body) },
      long,
    );
    if (kind === "watched" || kind === "web")
      await db.update(source).set({ location }).where(eq(source.id, read.source));
    return read;
  });

  route(app, context, postReading, async ({ params, body, caller, long }) => {
    const [found] = await db
      .select({ kind: source.kind })
      .from(source)
      .where(eq(source.id, params.id));
    if (found?.kind === "posted")
      return readPostedAgain(params.id, await fileOf(body), caller, long);
    if (found?.kind === "form")
      throw new Refusal(422, "source/of-form", t("sources.theRowsOfThisSource"), "file");
    return desk.run(
      "readFile",
      { actor: actorOf(caller), into: { id: params.id }, file: await fileOf(body) },
      long,
    );
  });

  route(app, context, getKnownWords, async () => knownWords(db));

  route(app, context, postMatch, async ({ body: { columns, others, ...sheet } }) =>
    desk.run("matchSources", {
      plan: { columns, ...(others === undefined ? {} : { others }) },
      ...sheet,
    }),
  );

  route(app, context, postMeanings, async ({ params, body, caller, long }) =>
    desk.run(
      "changeMeanings",
      { actor: actorOf(caller), source: params.id, plan: planFrom(body.plan) },
      long,
    ),
  );

  route(app, context, getHelped, async ({ caller }) => helpedSources(db, caller));
  route(app, context, postRows, async ({ params, body, caller, long }) =>
    addRows(context, params.id, body.rows, caller, long),
  );

  route(app, context, putSource, async ({ params, body: { version, ...body }, caller }) => {
    const [own] = await db.select({ timeZone: house.timeZone }).from(house);
    const [before] = await db.select().from(source).where(eq(source.id, params.id));
    if (before === undefined) throw notFound("source");
    if ((before.kind === "posted") !== (body.kind === "posted"))
      throw new Refusal(422, "source/of-posted", t("sources.theRowsOfSuchA"), "kind");
    if ((before.kind === "form") !== (body.kind === "form"))
      throw new Refusal(422, "source/of-form", t("sources.aSignUpFormIs"), "kind");
    const itself = body.kind === "watched" || body.kind === "web" ? body.kind : undefined;
    if (itself !== undefined && body.location === "")
      throw new Refusal(
        422,
        "source/no-location",
        itself === "web" ? t("sources.giveTheWebAddressOf") : t("sources.chooseTheFileInThe"),
        "location",
      );
    const nextAt =
      itself === undefined
        ? null
        : (nextReading(body.schedule, itself, new Date(), own?.timeZone ?? "UTC") ?? null);
    const loosened =
      before.limits.sourceShare !== body.limits.sourceShare || before.whole !== body.whole;
    const moved = before.location !== body.location || before.kind !== body.kind;
    await db.transaction(async (tx) => {
      const [now] = await tx.select().from(source).where(eq(source.id, params.id)).for("update");
      if (now === undefined) throw notFound("source");
      refuseStale(sourceSettings(now), version);
      await tx
        .update(source)
        .set({
          ...body,
          answersBeside: body.kind === "watched" && body.answersBeside,
          schedule: itself === undefined ? null : body.schedule,
          mode:
            itself === undefined && body.kind !== "form" && body.kind !== "posted"
              ? "ask"
              : body.mode,
          nextAt,
          ...(moved ? { seen: {}, failures: 0, failingSince: null, outcome: "" } : {}),
        })
        .where(eq(source.id, params.id));
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change source",
        sentence: t("sources.changedWhereAndWhenThe", { name: caller.name, source: body.name }),
        before: {
          kind: before.kind,
          location: before.location,
          schedule: before.schedule,
          mode: before.mode,
          whole: before.whole,
        },
        after: body,
      });
      if (loosened) await raiseVersion(tx, before.seasonId);
      await notify(tx, "sources");
    });
    if (loosened) await desk.run("reopenRound", undefined);
    const changed = (await sourceLines(db)).find(({ id }) => id === params.id);
    if (changed === undefined) throw notFound("source");
    return changed;
  });

  route(app, context, getWatched, async () =>
    context.settings.watched === undefined
      ? null
      : { files: await watchedFiles(context.settings.watched) },
  );

  route(app, context, postLook, async ({ body }) => {
    if (body.kind === "posted" && !/^[0-9a-f-]{36}$/i.test(body.location)) throw notFound("source");
    const fetched = await fetchFor(context, body.kind, body.location);
    if (!fetched.changed)
      throw new Refusal(
        503,
        "source/unchanged",
        t("sources.theAddressSaidThatNothing"),
        "location",
      );
    return {
      file: fetched.name,
      base64: Buffer.from(fetched.bytes).toString("base64"),
      writtenAt: fetched.writtenAt,
    };
  });

  route(app, context, postPosted, async ({ body, caller }) => {
    const [current] = await db
      .select({ id: season.id })
      .from(season)
      .where(eq(season.current, true));
    if (current === undefined)
      throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
    return db.transaction(async (tx) => {
      const [made] = await tx
        .insert(source)
        .values({ name: body.name, kind: "posted", whole: false, seasonId: current.id })
        .onConflictDoNothing()
        .returning({ id: source.id });
      if (made === undefined)
        throw new Refusal(
          409,
          "source/name-taken",
          t("sources.thereIsASourceCalled2", { name: body.name }),
          "name",
        );
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "make source",
        sentence: t("sources.madeTheSourceToWhich", { name: caller.name, source: body.name }),
        after: { source: made.id },
      });
      await notify(tx, "sources");
      return { id: made.id, url: await newPostedAddress(tx, made.id, context.settings.url) };
    });
  });

  route(app, context, postPostedAddress, async ({ params, caller }) => {
    const [found] = await db
      .select({ name: source.name })
      .from(source)
      .where(and(eq(source.id, params.id), eq(source.kind, "posted")));
    if (found === undefined) throw notFound("source");
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "new address",
      sentence: t("sources.gaveTheSourceANew", { name: caller.name, source: found.name }),
      after: { source: params.id },
    });
    return { url: await newPostedAddress(db, params.id, context.settings.url) };
  });

  app.get("/api/sources/:id/answered/:format", async (http) => {
    const caller = await needCaller(http, context, "see sources");
    const format = ANSWER_FORMATS.find((known) => known === http.req.param("format"));
    const id = http.req.param("id");
    if (format === undefined || !/^[0-9a-f-]{36}$/i.test(id))
      throw new Refusal(
        404,
        "not-found",
        t("sources.aSheetIsHandedBack", { formats: ANSWER_FORMATS.join(", ") }),
      );
    const sheet = await desk.run("answerSheet", { sourceId: id, format });
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "export sheet",
      sentence: t("sources.downloaded", { name: caller.name, file: sheet.name }),
      after: { source: id },
    });
    return http.body(new Uint8Array(sheet.bytes), 200, {
      "Content-Type": TYPE_OF[sheet.format],
      "Content-Disposition": `attachment; filename*=UTF-8''${encodeURIComponent(`${sheet.name}.${sheet.format}`)}`,
      "Cache-Control": "no-store",
    });
  });

  /** Reads all that was posted by the columns that somebody has just settled. */
  async function readPostedAgain(
    id: string,
    file: FileToRead,
    caller: Caller,
    long: Parameters<Context["desk"]["run"]>[2],
  ) {
    const fetched = await fetchFor(context, "posted", id);
    if (!fetched.changed) throw new Error("the answers were not fetched");
    const read = await desk.run(
      "readFile",
      {
        actor: actorOf(caller),
        into: { id },
        file: { ...file, name: fetched.name, bytes: fetched.bytes },
      },
      long,
    );
    await db.update(source).set({ seen: fetched.seen }).where(eq(source.id, id));
    return read;
  }

  route(app, context, postReadNow, async ({ params }) => {
    const [found] = await db.select({ id: source.id }).from(source).where(eq(source.id, params.id));
    if (found === undefined) throw notFound("source");
    return keepItself(context, params.id);
  });

  route(app, context, getReading, async ({ params }) => {
    const [found] = await readingLines(db, { reading: params.id });
    if (found === undefined) throw notFound("reading");
    const [own] = await db
      .select({
        id: source.id,
        name: source.name,
        newest:
          sql<number>`(select max(reading.number) from reading where reading.source_id = source.id)`.mapWith(
            Number,
          ),
      })
      .from(source)
      .where(eq(source.id, found.sourceId));
    const faults = await db
      .select({
        sheet: readingFault.sheet,
        row: readingFault.row,
        column: readingFault.column,
        written: readingFault.written,
        fault: readingFault.fault,
        answer: readingFault.answer,
        proposal: readingFault.proposal,
        sentence: readingFault.sentence,
        why: readingFault.why,
        correction: readingFault.correctionId,
      })
      .from(readingFault)
      .where(eq(readingFault.readingId, params.id))
      .orderBy(asc(readingFault.sheet), asc(readingFault.row), asc(readingFault.column))
      .limit(5000);
    const tables = await tablesOfReading(db, { id: params.id, plan: found.plan });
    const read = tables.ok
      ? tables.tables.map(({ sheet, table }) => ({
          name: sheet.name,
          headerRow: table.headerRow,
          totalRows: sheet.rows.length,
          aside: table.aside.filter(({ why }) => why !== "blank").map(({ row }) => row + 1),
        }))
      : [];
    const [questions] = await db
      .select({ count: sql<number>`count(*)`.mapWith(Number) })
      .from(question)
      .where(
        sql`exists (select 1 from jsonb_array_elements(${question.sides}) as side where side->'where'->>'reading' = ${params.id})`,
      );
    const newest = own?.newest === found.line.number;
    const failing = newest && tables.ok ? await failingIn(db, tables.tables, found) : [];
    const marked = new Set(faults.map(({ sheet, row, column }) => `${sheet} ${row} ${column}`));
    return {
      reading: found.line,
      source: { id: found.sourceId, name: own?.name ?? "" },
      sheets: found.sheets,
      plan: found.plan,
      read,
      newest,
      questions: questions?.count ?? 0,
      faults: [
        ...faults,
        ...failing.filter(({ sheet, row, column }) => !marked.has(`${sheet} ${row} ${column}`)),
      ],
    };
  });

  route(app, context, getReadingRows, async ({ params, query }) =>
    db
      .select({ row: readingRow.row, cells: readingRow.cells })
      .from(readingRow)
      .where(
        and(
          eq(readingRow.readingId, params.id),
          eq(readingRow.sheet, query.sheet),
          gte(readingRow.row, query.from),
          lt(readingRow.row, query.from + ROWS_AT_ONCE),
        ),
      )
      .orderBy(asc(readingRow.row)),
  );

  route(app, context, getCorrections, async () => {
    const rows = await db
      .select({
        id: correction.id,
        source: source.name,
        place: correction.place,
        who: correction.who,
        written: correction.written,
        read: correction.read,
        by: correction.by,
        at: correction.at,
        endedAt: correction.endedAt,
        ended: correction.ended,
      })
      .from(correction)
      .innerJoin(source, eq(source.id, correction.sourceId))
      .orderBy(sql`${correction.endedAt} is not null`, desc(correction.at))
      .limit(500);
    return rows.map(({ endedAt, ended, at, ...row }) => ({
      ...row,
      at: at.toISOString(),
      ended: endedAt === null ? "" : ended,
    }));
  });

  route(app, context, postCorrection, async ({ body, caller }) =>
    desk.run("makeCorrection", { actor: actorOf(caller), wanted: body }),
  );

  route(app, context, deleteCorrection, async ({ params, caller }) =>
    desk.run("endCorrection", { actor: actorOf(caller), id: params.id }),
  );

  route(app, context, getSamples, async () => {
    const [found] = await db.select({ demo: house.demo }).from(house);
    return found?.demo === true ? SAMPLE_SHEETS.map(({ name, what }) => ({ name, what })) : [];
  });
}

const TYPE_OF = {
  csv: "text/csv; charset=utf-8",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  ods: "application/vnd.oasis.opendocument.spreadsheet",
} as const;

/** The cells of a reading that name an address to which mail fails, as faults: told beside the row that it came from. */
async function failingIn(
  db: Queries,
  tables: readonly TableInSheet[],
  { sourceId }: { sourceId: string },
): Promise<ReadingPage["faults"]> {
  const troubles = new Map(
    (await db.select().from(addressTrouble)).map((row) => [row.address, row]),
  );
  if (troubles.size === 0) return [];
  const { records } = readAll(
    tables,
    await correctionsOf(db, sourceId),
    await readingContext(db, sourceId),
  );
  return failingCells(tables, records, (address) => troubles.has(address)).flatMap(
    ({ sheet, row, column, written, address }) => {
      const trouble = troubles.get(address);
      if (trouble === undefined) return [];
      const stopped = trouble.state === "stopped";
      return [
        {
          sheet,
          row,
          column,
          written,
          fault: "failing",
          answer: "unusable" as const,
          proposal: null,
          sentence: stopped
            ? t("sources.mailToThisAddressComes")
            : t("sources.mailToThisAddressFails"),
          why: t("sources.sortWordsIsstoppedNothingMore", {
            sort: capital(say(sortWords(trouble.sort))),
            words: trouble.words || t("sources.noReasonWasGiven"),
            stopped: stopped,
          }),
          correction: null,
        },
      ];
    },
  );
}

/** The sources of the current season, oldest first, each with its last reading and what it does by itself. */
async function sourceLines(db: Queries): Promise<SourceLine[]> {
  const rows = await db
    .select({ own: source })
    .from(source)
    .innerJoin(season, eq(season.id, source.seasonId))
    .where(eq(season.current, true))
    .orderBy(asc(source.createdAt));
  const posted = new Map(
    (
      await db
        .select({ id: postedAnswer.sourceId, count: sql<number>`count(*)`.mapWith(Number) })
        .from(postedAnswer)
        .groupBy(postedAnswer.sourceId)
    ).map(({ id, count }) => [id, count]),
  );
  const last = new Map(
    (rows.length === 0
      ? []
      : await readingLines(db, { newestOf: rows.map(({ own }) => own.id) })
    ).map(({ sourceId, line }) => [sourceId, line]),
  );
  return rows.map(({ own }) => ({
    id: own.id,
    ...sourceSettings(own),
    version: versionOf(sourceSettings(own)),
    posted: posted.get(own.id) ?? 0,
    last: last.get(own.id) ?? null,
    nextAt: own.nextAt?.toISOString() ?? null,
    triedAt: own.triedAt?.toISOString() ?? null,
    outcome: own.outcome,
    failures: own.failures,
    failingSince: own.failingSince?.toISOString() ?? null,
  }));
}

function sourceSettings(own: typeof source.$inferSelect): SourceSettings {
  return {
    name: own.name,
    kind: own.kind,
    location: own.location,
    schedule: own.schedule,
    mode: own.mode,
    whole: own.whole,
    limits: own.limits,
    answersBeside: own.answersBeside,
  };
}

function planFrom({ others, ...rest }: z.output<typeof Plan>): ReadingPlan {
  return { ...rest, ...(others === undefined ? {} : { others }) };
}

async function fileOf(body: {
  file: File;
  plan: string;
  written: string;
  whole: "true" | "false" | "";
}): Promise<FileToRead> {
  let plan: unknown;
  try {
    plan = JSON.parse(body.plan);
  } catch {
    throw new Refusal(400, "bad-request", t("sources.planThisIsNoJson"), "plan");
  }
  const parsed = Plan.safeParse(plan);
  if (!parsed.success)
    throw new Refusal(
      400,
      "bad-request",
      t("sources.planIsNotRight", {
        fault: wrongWith(parsed.error.issues[0]),
      }),
      "plan",
    );
  return {
    name: body.file.name.slice(0, 200),
    bytes: new Uint8Array(await body.file.arrayBuffer()),
    plan: planFrom(parsed.data),
    writtenAt: body.written === "" ? "" : new Date(body.written).toISOString(),
    ...(body.whole === "" ? {} : { whole: body.whole === "true" }),
  };
}
