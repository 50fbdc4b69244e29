import type { Context as HonoContext } from "hono";
import { localeOf, paperOf } from "@amigo/core/text/place";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { loadCurrentSeason, loadHouse } from "../db/houseQueries";
import { record } from "../events/record";
import { orRefuse, notFound } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { needCaller } from "../http/route";
import { knownPeople } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { loadStopped } from "../membership/addressQueries";
import { tablePdf, type PrintedTable } from "../pdf/tablePdf";
import { t } from "../texts/t";
import { memberTable } from "./memberTable";
import { classList, studentsOf, teamSheet } from "./printedSheets";

type Table = Pick<PrintedTable, "title" | "line" | "columns" | "rows" | "empty">;

/** Sends the class list or team sheet of a class or team whose students the caller may know. */
export async function printCohort(
  context: Context,
  http: FileRequest<"/api/print/:key/:sheet{(class-list|team-sheet)\\.pdf}">,
): Promise<Response> {
  const { db } = context;
  return print(context, http, async (caller) => {
    const key = http.req.param("key");
    const known = await knownPeople(db, caller);
    const value = known.cohorts.get(key);
    const students = studentsOf(key, known);
    // A class of which one may know nobody is not there, as everywhere.
    if (value === undefined || (students.length === 0 && caller.role !== "coordinator"))
      throw notFound("class");
    if (http.req.param("sheet").startsWith("class-list")) return classList(value.name, students);
    return teamSheet(value.name, students, known, await loadStopped(db));
  });
}

/** Sends the members of a list that the caller sees, each with the reason. */
export async function printMembers(
  context: Context,
  http: FileRequest<"/api/lists/:id/members.pdf">,
): Promise<Response> {
  const { db } = context;
  return print(context, http, async (caller) => {
    const id = http.req.param("id");
    if (!/^[0-9a-f-]{36}$/i.test(id)) throw notFound("list");
    const found = orRefuse(await loadList(db, id, caller, "seen"));
    const members = await memberTable(db, found, undefined);
    return {
      title: found.title,
      line: t("lists.addressesOnIt", { count: members.length }),
      columns: [
        { title: t("lists.name"), share: 28 },
        { title: t("shared.address"), share: 36 },
        { title: t("lists.onItBecause"), share: 36 },
      ],
      rows: members.map(({ address, people }) => [
        people.length === 0 ? [""] : people.map(({ name }) => name),
        [address],
        [...new Set(people.map(({ because }) => because))],
      ]),
      empty: t("lists.nobodyIsOnThisList"),
    };
  });
}

/** Prints a table for whoever may see lists, with the season and the day, and records it in the journal. */
async function print(
  context: Context,
  http: HonoContext,
  make: (caller: Caller) => Promise<Table>,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "see lists");
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
    sentence: t("lists.printed", { name: caller.name, title: table.title }),
  });
  return http.body(new Uint8Array(pdf), 200, {
    "Content-Type": "application/pdf",
    "Content-Disposition": `inline; filename="print.pdf"`,
    "Cache-Control": "no-store",
  });
}
