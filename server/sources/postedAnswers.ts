import { eq, asc } from "drizzle-orm";
import Papa from "papaparse";
import { postedSheet } from "@amigo/core/sheet/postedAnswers";
import { makeToken, hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { source, postedAnswer } from "../db/schema/sources";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";
import type { Fetched } from "./fetchSheet";

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
