import type { Context as HonoContext, Hono } from "hono";
import type { Action } from "@amigo/core/access/may";
import { localeOf, paperOf } from "@amigo/core/text/place";
import { type Caller } from "../callers/caller";
import type { Context } from "../context";
import { notFound } from "../http/fault";
import { needCaller } from "../http/route";
import { record } from "../events/record";
import { memberTable } from "./memberTable";
import { knownPeople } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { classList, studentsOf, teamSheet } from "./printedSheets";
import { tablePdf, type PrintedTable } from "../pdf/tablePdf";
import { t } from "../texts/t";
import { loadHouse, loadCurrentSeason } from "../db/houseQueries";
import { listStopped } from "../membership/queries";

type Table = Pick<PrintedTable, "title" | "line" | "columns" | "rows" | "empty">;

/** Sheets to print, as PDF: of a class or team whom somebody may know, of a list whose members they see. */
export function printRoutes(app: Hono, context: Context): void {
  const { db } = context;

  app.get("/api/print/:key/:sheet{(class-list|team-sheet)\\.pdf}", (http) =>
    print(http, "see lists", async (caller) => {
      const key = http.req.param("key");
      const known = await knownPeople(db, caller);
      const value = known.cohorts.get(key);
      const students = studentsOf(key, known);
      // A class of which one may know nobody is not there, as everywhere.
      if (value === undefined || (students.length === 0 && caller.role !== "coordinator"))
        throw notFound("class");
      if (http.req.param("sheet").startsWith("class-list")) return classList(value.name, students);
      const stopped = new Set((await listStopped(db)).map(({ address }) => address));
      return teamSheet(value.name, students, known, (address) => stopped.has(address));
    }),
  );

  app.get("/api/lists/:id/members.pdf", (http) =>
    print(http, "see lists", async (caller) => {
      const id = http.req.param("id");
      if (!/^[0-9a-f-]{36}$/i.test(id)) throw notFound("list");
      const found = await loadList(db, id, caller, "seen");
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
    }),
  );

  async function print(
    http: HonoContext,
    action: Action,
    make: (caller: Caller) => Promise<Table>,
  ): Promise<Response> {
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
      sentence: t("lists.printed", { name: caller.name, title: table.title }),
    });
    return http.body(new Uint8Array(pdf), 200, {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="print.pdf"`,
      "Cache-Control": "no-store",
    });
  }
}
