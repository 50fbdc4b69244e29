import { noSuch, Refused, refused } from "../refused";
import Papa from "papaparse";
import type { HelpedSource } from "@amigo/contract/readings";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { record } from "../events/record";
import { openBook } from "../sandbox/openBook";
import { TEXT_SHEET } from "@amigo/core/sheet/readWorkbook";
import { t } from "../texts/t";
import type { ReadingPlan } from "@amigo/core/sheet/table";
import { listHelped, findHelped, lastReading } from "./queries";

/** The sheets to which somebody may add rows: a helper to those that they were given, a coordinator to all. */
export async function helpedSources(db: Queries, caller: Caller): Promise<HelpedSource[]> {
  const rows = await listHelped(db, caller);
  return Promise.all(
    rows.map(async ({ id, name, kind }) => {
      const last = await lastReading(db, id);
      const columns = last?.plan.columns.map(({ title, meaning }) => ({ title, meaning })) ?? [];
      return { id, name, columns, rows: last?.rows ?? 0, because: whyNot(kind, last?.plan) };
    }),
  );
}

/**
 * Adds rows at the end of the newest reading of a source. They are a reading of their own, on which a coordinator decides
 * as on any other.
 */
export async function addRows(
  { db, desk }: Pick<Context, "db" | "desk">,
  id: string,
  rows: readonly (readonly string[])[],
  caller: Caller,
  long: Parameters<Context["desk"]["run"]>[2],
): Promise<{ added: number } | Refused> {
  const found = await findHelped(db, id, caller);
  if (found === undefined) return noSuch("source");
  const last = await lastReading(db, id);
  const because = whyNot(found.kind, last?.plan);
  if (because !== "" || last === undefined) return refused(422, "rows/not-here", because);
  const filled = rows.filter((row) => row.some((cell) => cell.trim() !== ""));
  if (filled.length === 0)
    return refused(422, "rows/empty", t("sources.thereIsNothingInThese"), "rows");
  const book = await openBook(last.file);
  if (book instanceof Refused) return book;
  const sheet = book.sheets.find(({ name }) => name === last.plan.sheet);
  if (sheet === undefined)
    return refused(422, "rows/no-sheet", t("sources.theSheetIsNotIn", { sheet: last.plan.sheet }));
  const width = last.plan.columns.length;
  const text = Papa.unparse(
    [...sheet.rows.map((row) => [...row]), ...filled.map((row) => [...row].slice(0, width))],
    { newline: "\r\n" },
  );
  const plan: ReadingPlan = { ...last.plan, sheet: TEXT_SHEET };
  const read = await desk.run(
    "readFile",
    {
      actor: { id: caller.id, name: caller.name },
      into: { id },
      file: {
        name: `${last.fileName.replace(/\.[^.]*$/, "")}.csv`,
        bytes: new TextEncoder().encode(`\uFEFF${text}`),
        plan,
        writtenAt: "",
      },
    },
    long,
  );
  if (read instanceof Refused) return read;
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "add rows",
    sentence: () =>
      t("sources.addedTo", { name: caller.name, rows: filled.length, source: found.name }),
  });
  return { added: filled.length };
}

function whyNot(kind: string, plan: ReadingPlan | undefined): string {
  if (plan === undefined) return t("sources.thisSheetWasNotRead");
  if (kind === "form") return t("sources.itsRowsAreWhatFamilies");
  if (kind === "watched" || kind === "web") return t("sources.thisSheetIsReadFrom");
  return (plan.others ?? []).length > 0 ? t("sources.thisFileHasASheet") : "";
}
