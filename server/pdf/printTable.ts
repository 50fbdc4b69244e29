import type { Context as HonoContext } from "hono";
import type { Action } from "@amigo/core/access/may";
import { localeOf, paperOf } from "@amigo/core/text/place";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { loadCurrentSeason, loadHouse } from "../db/houseQueries";
import { record } from "../events/record";
import { notFound } from "../http/fault";
import { needCaller } from "../http/route";
import { t } from "../texts/t";
import { tablePdf, type PrintedTable } from "./tablePdf";

type Table = Pick<PrintedTable, "title" | "line" | "columns" | "rows" | "empty">;

/** Prints a table for whoever may do an action, with the season and the day, and records it in the journal. */
export async function printTable(
  context: Context,
  http: HonoContext,
  action: Action,
  make: (caller: Caller) => Promise<Table>,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, action);
  const table = await make(caller);
  const house = await loadHouse(db);
  const current = await loadCurrentSeason(db);
  if (house === undefined) throw notFound("school");
  const asked = http.req.query("paper");
  const day = new Intl.DateTimeFormat(localeOf(house), {
    timeZone: house.timeZone,
    dateStyle: "long",
  }).format(new Date());
  const pdf = await tablePdf({
    ...table,
    line: [current?.label ?? "", table.line, day].filter((part) => part !== "").join(", "),
    house: house.name,
    language: house.language,
    paper: asked === "A4" || asked === "Letter" ? asked : paperOf(house.country),
  });
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "print",
    sentence: () => t("lists.printed", { name: caller.name, title: table.title }),
  });
  return http.body(new Uint8Array(pdf), 200, {
    "Content-Type": "application/pdf",
    "Content-Disposition": `inline; filename="print.pdf"`,
    "Cache-Control": "no-store",
  });
}
