import { createHash } from "node:crypto";
import { and, asc, desc, eq, sql } from "drizzle-orm";
import type { Hono } from "hono";
import Papa from "papaparse";
import { postedSheet, readPosted, storedFields } from "@amigo/core/sheet/postedAnswers";
import { hashToken, makeToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { isWithinTries } from "../http/limitTries";
import { parseJson } from "../http/parseJson";
import { networkAddress } from "../http/networkAddress";
import type { Fetched } from "./fetchSheet";
import { t } from "../texts/t";
import { season } from "../db/schema/house";
import { source, postedAnswer, reading } from "../db/schema/sources";

/** How many answers one address takes in how many minutes, and how many wrong addresses may be tried from one network address. */
const ANSWERS = 600;
const WRONG = 30;
const MINUTES = 10;
/** How many answers one source keeps; beyond, another one is begun. */
const MOST_ANSWERS = 50_000;

/** Takes the answers that an outside form tool posts, as JSON or form data, at the secret address of their source. */
export function postedRoutes(app: Hono, context: Context): void {
  const { db } = context;
  app.post("/in/:token", async (http) => {
    const hash = hashToken(http.req.param("token"));
    const [own] = await db
      .select({ id: source.id })
      .from(source)
      .innerJoin(season, and(eq(season.id, source.seasonId), eq(season.current, true)))
      .where(eq(source.tokenHash, hash));
    if (own === undefined) {
      if (
        !(await isWithinTries(
          db,
          `posted ${networkAddress(http, context.settings)}`,
          WRONG,
          MINUTES,
        ))
      )
        throw new Refusal(429, "too-many", t("sources.tooManyWrongAddressesWere"));
      throw new Refusal(404, "not-found", t("sources.thereIsNothingAtThis2"));
    }
    if (!(await isWithinTries(db, `posted ${own.id}`, ANSWERS, MINUTES)))
      throw new Refusal(429, "too-many", t("sources.tooManyAnswersCameIn"));
    const isJson = (http.req.header("Content-Type") ?? "").includes("json");
    // A form tool can't mend what a family typed: what can't be kept is tidied away by `readPosted`.
    const body: unknown = await (
      isJson
        ? http.req.text().then((text) => parseJson(text, () => true))
        : http.req.parseBody({ all: true })
    ).catch(() => undefined);
    const read = readPosted(body);
    if (!read.ok) throw new Refusal(400, "posted/not-an-answer", read.sentence);
    const isKept = await db.transaction(async (tx) => {
      const [count] = await tx
        .select({ answers: sql<number>`count(*)`.mapWith(Number) })
        .from(postedAnswer)
        .where(eq(postedAnswer.sourceId, own.id));
      if ((count?.answers ?? 0) >= MOST_ANSWERS) return false;
      const [last] = await tx
        .select({ plan: reading.plan })
        .from(reading)
        .where(eq(reading.sourceId, own.id))
        .orderBy(desc(reading.number))
        .limit(1);
      const fields = storedFields(read.fields, last?.plan);
      await tx
        .insert(postedAnswer)
        .values({
          sourceId: own.id,
          fields,
          sha256: createHash("sha256").update(JSON.stringify(fields)).digest("hex"),
        })
        .onConflictDoNothing();
      // What a person has looked at once is read by itself from then on.
      await tx
        .update(source)
        .set({ nextAt: sql`now()` })
        .where(
          and(
            eq(source.id, own.id),
            sql`exists (select 1 from reading where reading.source_id = ${own.id})`,
          ),
        );
      await notify(tx, "sources", "posted");
      return true;
    });
    if (!isKept) throw new Refusal(409, "posted/full", t("sources.thisSourceTakesNoMore"));
    return http.json({ received: true }, 202);
  });
}

/** A new secret for the address of a source; the one before is good no longer. */
export async function newPostedAddress(db: Queries, id: string, url: string): Promise<string> {
  const token = makeToken();
  await db
    .update(source)
    .set({ tokenHash: hashToken(token) })
    .where(eq(source.id, id));
  return `${url}/in/${token}`;
}

/** The answers of a source as a sheet; unchanged where none has come since it was last read. */
export async function fetchPosted(
  db: Queries,
  id: string,
  seen: Record<string, string> = {},
): Promise<Fetched> {
  const rows = await db
    .select({ at: postedAnswer.at, fields: postedAnswer.fields })
    .from(postedAnswer)
    .where(eq(postedAnswer.sourceId, id))
    .orderBy(asc(postedAnswer.number));
  if (rows.length === 0) throw new Refusal(422, "posted/none", t("sources.noAnswerHasComeYet"));
  const now = { answers: String(rows.length) };
  if (seen.answers === now.answers) return { changed: false };
  const text = Papa.unparse(
    postedSheet(rows.map(({ at, fields }) => ({ at: at.toISOString(), fields }))),
    { newline: "\r\n" },
  );
  return {
    changed: true,
    name: "answers.csv",
    bytes: new TextEncoder().encode(`\uFEFF${text}`),
    writtenAt: "",
    seen: now,
  };
}
