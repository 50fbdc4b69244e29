import Papa from "papaparse";
import { JournalWanted } from "@amigo/contract/house";
import { harmlessCell } from "@amigo/core/sheet/harmlessCell";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { needCaller } from "../http/route";
import { t } from "../texts/t";
import { journalEntries } from "./journalEntries";
import { record } from "../events/record";

const MOST_EXPORTED = 100_000;

/** Sends the journal as CSV, as it is filtered. */
export async function exportJournal(
  context: Context,
  http: FileRequest<"/api/journal/export">,
): Promise<Response> {
  const { db } = context;
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
    sentence: () => t("house.exportedTheJournal", { name: caller.name }),
  });
  return http.body(`\uFEFF${text}\r\n`, 200, {
    "Content-Type": "text/csv; charset=utf-8",
    "Content-Disposition": 'attachment; filename="journal.csv"',
    "Cache-Control": "no-store",
  });
}
