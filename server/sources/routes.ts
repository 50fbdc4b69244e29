import { and, asc, eq, gte, lt } from "drizzle-orm";
import type { Hono } from "hono";
import { getReading, getReadingRows, getSamples, getSource, getSources, Plan, postReading, postSource } from "@amigo/contract/sources";
import { SAMPLE_SHEETS } from "@amigo/demo/samples";
import type { Context } from "../context";
import { house, readingFault, readingRow, season, source } from "../db/schema";
import { notFound, Refusal } from "../http/fault";
import { route } from "../http/route";
import { readFile, type FileToRead } from "./readFile";
import { readingLines, tableOfReading } from "../readings/queries";

const ROWS_AT_ONCE = 500;

export function sourceRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getSources, async () => {
    const rows = await db.select({ id: source.id, name: source.name }).from(source).innerJoin(season, eq(season.id, source.seasonId)).where(eq(season.current, true)).orderBy(asc(source.createdAt));
    return Promise.all(rows.map(async (row) => {
      const lines = await readingLines(db, { source: row.id });
      return { ...row, last: lines[0]?.line ?? null, readings: lines.length };
    }));
  });

  route(app, context, getSource, async ({ params }) => {
    const [found] = await db.select({ id: source.id, name: source.name }).from(source).where(eq(source.id, params.id));
    if (found === undefined) throw notFound("source");
    const lines = await readingLines(db, { source: found.id });
    return { ...found, plan: lines[0]?.plan ?? null, readings: lines.map(({ line }) => line) };
  });

  route(app, context, postSource, async ({ body, caller }) => readFile(db, caller, { name: body.name }, await fileOf(body)));
  route(app, context, postReading, async ({ params, body, caller }) => readFile(db, caller, { id: params.id }, await fileOf(body)));

  route(app, context, getReading, async ({ params }) => {
    const [found] = await readingLines(db, { reading: params.id });
    if (found === undefined) throw notFound("reading");
    const [own] = await db.select({ id: source.id, name: source.name }).from(source).where(eq(source.id, found.sourceId));
    const faults = await db.select({ row: readingFault.row, column: readingFault.column, written: readingFault.written, fault: readingFault.fault, answer: readingFault.answer, proposal: readingFault.proposal, sentence: readingFault.sentence, why: readingFault.why }).from(readingFault).where(eq(readingFault.readingId, params.id)).orderBy(asc(readingFault.row), asc(readingFault.column)).limit(5000);
    const table = await tableOfReading(db, { id: params.id, plan: found.plan });
    const aside = table.ok ? table.table.aside.filter(({ why }) => why !== "blank").map(({ row }) => row + 1) : [];
    return { reading: found.line, source: own ?? { id: found.sourceId, name: "" }, sheets: found.sheets, plan: found.plan, totalRows: table.ok ? table.sheet.rows.length : 0, aside, faults };
  });

  route(app, context, getReadingRows, async ({ params, query }) =>
    db.select({ row: readingRow.row, cells: readingRow.cells }).from(readingRow)
      .where(and(eq(readingRow.readingId, params.id), gte(readingRow.row, query.from), lt(readingRow.row, query.from + ROWS_AT_ONCE))).orderBy(asc(readingRow.row)));

  route(app, context, getSamples, async () => {
    const [found] = await db.select({ demo: house.demo }).from(house);
    return found?.demo === true ? SAMPLE_SHEETS.map(({ name, what }) => ({ name, what })) : [];
  });
}

async function fileOf(body: { file: File; plan: string }): Promise<FileToRead> {
  let plan: unknown;
  try {
    plan = JSON.parse(body.plan);
  } catch {
    throw new Refusal(400, "bad-request", "plan: this is no JSON.", "plan");
  }
  const parsed = Plan.safeParse(plan);
  if (!parsed.success) throw new Refusal(400, "bad-request", `plan: ${parsed.error.issues[0]?.message ?? "it is not right"}`, "plan");
  return { name: body.file.name.slice(0, 200), bytes: new Uint8Array(await body.file.arrayBuffer()), plan: parsed.data };
}
