import type { Context } from "../context";
import { orRefuse, notFound } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { knownPeople } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { loadStopped } from "../membership/addressQueries";
import { printTable } from "../pdf/printTable";
import { t } from "../texts/t";
import { memberTable } from "./memberTable";
import { classList, studentsOf, teamSheet } from "./printedSheets";

/** Sends the class list or team sheet of a class or team whose students the caller may know. */
export async function printCohort(
  context: Context,
  http: FileRequest<"/api/print/:key/:sheet{(class-list|team-sheet)\\.pdf}">,
): Promise<Response> {
  const { db } = context;
  return printTable(context, http, "see lists", async (caller) => {
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
  return printTable(context, http, "see lists", async (caller) => {
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
