import { refused, type Refused } from "../refused";
import Papa from "papaparse";
import { postedSheet } from "@amigo/core/sheet/postedAnswers";
import { makeToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { t } from "../texts/t";
import type { Fetched } from "../sandbox/fetchWeb";
import { storeToken, listPostedAnswers } from "./postedQueries";

/** A new secret for the address of a source; the one before is good no longer. */
export async function newPostedAddress(db: Queries, id: string, url: string): Promise<string> {
  const token = makeToken();
  await storeToken(db, token, id);
  return `${url}/in/${token}`;
}

/** The answers of a source as a sheet; unchanged where none has come since it was last read. */
export async function fetchPosted(
  db: Queries,
  id: string,
  seen: Record<string, string> = {},
): Promise<Fetched | Refused> {
  const rows = await listPostedAnswers(db, id);
  if (rows.length === 0) return refused(422, "posted/none", t("sources.noAnswerHasComeYet"));
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
