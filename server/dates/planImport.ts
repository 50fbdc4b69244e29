import { createHash } from "node:crypto";
import type { DateImport, DateImportLine, ImportWishes } from "@amigo/contract/dateImport";
import { DateContent } from "@amigo/contract/dates";
import { fold } from "@amigo/core/text/fold";
import { say } from "@amigo/language/say";
import { listOthers, type DateRow } from "../calendar/dateQueries";
import { eventContent } from "../calendar/eventContent";
import { timesOf } from "../calendar/timesOf";
import { NEWS, whatIsNew } from "../calendar/whatIsNew";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { loadCurrentSeason, loadHouse } from "../db/houseQueries";
import { listTargets } from "../membership/targetQueries";
import { Refused, refused } from "../refused";
import { t } from "../texts/t";
import { listImported, listListsOfDates } from "./dateQueries";
import { NEWS_WORDS } from "./newsWords";
import { callOff, storeChangedDate, storeNewDate } from "./makeDate";
import { readImport, type ImportedDate, type ImportRead } from "./readImport";
import { shown } from "./showDates";
import { whomToInvite } from "./whomToInvite";

/** One step of an import, with what carries it out. */
export interface Step {
  line: DateImportLine;
  /** The date that it is about, where there is one; and what it is to be. */
  row?: DateRow;
  content?: DateContent;
  date?: ImportedDate;
}

async function stepsOf(
  db: Queries,
  caller: Caller,
  read: ImportRead,
  { name, list, group }: ImportWishes,
  zone: string,
): Promise<Step[]> {
  const rows = await listImported(db, caller, name);
  const known = new Map(rows.map((row) => [row.importKey, row]));
  const around: Around = {
    zone,
    lists: await listsFor(db, caller, list, group),
    listsOf: new Map(),
    whyNot: rulesFor(db, caller),
    othersOf: (date) => listOthers(db, date),
  };
  const ids = rows.map(({ id }) => id);
  for (const { date, id } of ids.length === 0 ? [] : await listListsOfDates(db, ids, caller))
    around.listsOf.set(date, [...(around.listsOf.get(date) ?? []), id]);
  const steps: Step[] = [];
  for (const date of read.dates) steps.push(await stepOf(around, date, known.get(date.key)));
  const keys = new Set(read.dates.map(({ key }) => key));
  for (const row of rows)
    if (!keys.has(row.importKey) && row.cancelledAt === null && row.firstAt > new Date())
      steps.push({ row, line: lineOf("gone", row, "", t("dates.notOnTheListAnyMore")) });
  return [
    ...steps,
    ...read.left.map(({ row, title, reason }): Step => ({
      line: { step: "left out", row, title, when: null, place: "", list: "", note: reason },
    })),
  ];
}

/** What is to be done with the dates of a file, and what was found out about it. */
export interface ImportPlan {
  steps: Step[];
  /** All of it as one word: what is carried out is what was shown. */
  plan: string;
  isUnsure: boolean;
}

/** Works out what dates of a file or a web address would change. */
export async function planImport(
  db: Queries,
  caller: Caller,
  bytes: Uint8Array,
  wishes: ImportWishes,
): Promise<ImportPlan | Refused> {
  const house = await loadHouse(db);
  const season = await loadCurrentSeason(db);
  const timeZone = house?.timeZone ?? "UTC";
  const firstYear = Number(season?.label.slice(0, 4) ?? new Date().getFullYear());
  const read = await readImport(bytes, { timeZone, firstYear });
  if (read instanceof Refused) return read;
  const steps = await stepsOf(db, caller, read, wishes, timeZone);
  return { steps, plan: planOf(steps), isUnsure: read.isUnsure };
}

/** Does what was shown, where its plan is given and nothing has changed since; returns the lines of what is, or was, to be done. */
export async function carryOutPlan(
  db: Database,
  caller: Caller,
  { steps, plan, isUnsure }: ImportPlan,
  { name, plan: agreed }: { name: string; plan: string },
): Promise<DateImport | Refused> {
  if (agreed !== "") {
    if (agreed !== plan) return refused(409, "import/changed", t("dates.importHasChanged"));
    for (const step of steps) {
      const done = await carryOut(db, caller, step, name);
      if (done instanceof Refused) return done;
    }
  }
  return { lines: steps.map(({ line }) => line), plan, done: agreed !== "", isUnsure };
}

/** How many dates a plan makes, changes or calls off. */
export function countDifferences({ steps }: ImportPlan): number {
  return steps.filter(({ line }) => line.step !== "same" && line.step !== "left out").length;
}

/** What the dates of a file are looked at with. */
interface Around {
  zone: string;
  lists: Lists;
  /** The lists of the dates that came from this file before. */
  listsOf: Map<string, string[]>;
  /** Why a list can't be invited; undefined where it can. */
  whyNot: (list: string) => Promise<string | undefined>;
  othersOf: (date: string) => ReturnType<typeof listOthers>;
}

/** Looks at each list's rules once, however many dates it has. */
function rulesFor(db: Queries, caller: Caller): Around["whyNot"] {
  const found = new Map<string, Promise<string | undefined>>();
  const look = async (list: string): Promise<string | undefined> => {
    const rules = await whomToInvite(db, caller, { lists: [list], people: [], privateLists: [] });
    return rules instanceof Refused ? say(rules.detail) : rules.refused[0];
  };
  return (list) => {
    const why = found.get(list) ?? look(list);
    found.set(list, why);
    return why;
  };
}

interface Lists {
  /** The list of dates without a team. */
  single: { id: string; title: string } | undefined;
  /** The list that is meant by a team. */
  ofTeam: (team: string) => { id: string; title: string } | undefined;
}

async function listsFor(
  db: Queries,
  caller: Caller,
  single: string,
  group: string,
): Promise<Lists> {
  const all = await listTargets(db, caller);
  return {
    single: all.find(({ id }) => id === single),
    ofTeam: (team) => {
      const named = all.filter(({ title }) => isOf(title, team));
      const [only, another] = named;
      const wanted = named.find(({ title }) => fold(title).endsWith(fold(group)));
      return another === undefined ? only : group === "" ? undefined : wanted;
    },
  };
}

/** Whether a list is one of a team's: its title is the team's name, or begins with it. */
function isOf(title: string, team: string): boolean {
  const [whole, wanted] = [fold(title), fold(team)];
  return wanted !== "" && (whole === wanted || whole.startsWith(`${wanted} `));
}

async function stepOf(around: Around, date: ImportedDate, row: DateRow | undefined): Promise<Step> {
  const leftOut = (note: string): Step => ({
    line: { ...lineOf("left out", date, "", note), row: date.row },
  });
  const teams = date.team === "" ? date.sides : [date.team];
  const list =
    teams.map(around.lists.ofTeam).find((found) => found !== undefined) ?? around.lists.single;
  if (list === undefined)
    return leftOut(
      teams.length === 0
        ? t("dates.chooseAListForThese")
        : t("dates.noListOfTeam", { team: teams.join(" – ") }),
    );
  const before = row === undefined ? [] : (around.listsOf.get(row.id) ?? []);
  const moved = row !== undefined && !before.includes(list.id);
  // A list that somebody has added in Amigo stays, as long as the team is the same.
  const lists = before.includes(list.id) ? before : [list.id];
  const parsed = DateContent.safeParse(contentOf(date, row, lists));
  if (!parsed.success) return leftOut(t("dates.aDateNeedsATitle"));
  const times = timesOf(parsed.data, around.zone, date.changes);
  if (times instanceof Refused) return leftOut(say(times.detail));
  if (times.lastAt < new Date()) return leftOut(t("dates.isOverAlready"));
  for (const id of lists) {
    const why = await around.whyNot(id);
    if (why !== undefined) return leftOut(why);
  }
  const line = { ...lineOf("new", date, list.title, ""), row: date.row };
  if (row === undefined) return { line, content: parsed.data, date };
  if (row.cancelledAt !== null) return leftOut(t("dates.wasCalledOffInAmigo"));
  const news = whatIsNew(row, { ...parsed.data, ...times, changes: date.changes });
  if (news.length === 0 && !moved) return { line: { ...line, step: "same" }, row };
  const words = NEWS.filter((part) => news.includes(part)).map((part) => t(NEWS_WORDS[part]));
  const { people, onLists } = await around.othersOf(row.id);
  return {
    line: {
      ...line,
      step: "changed",
      note: [...words, ...(moved ? [t("dates.newsList")] : [])].join(", "),
    },
    content: { ...parsed.data, people, privateLists: [...new Set(onLists.map(({ id }) => id))] },
    date,
    row,
  };
}

/** What Amigo keeps of a date of a file. What was added to it in Amigo stays. */
function contentOf(date: ImportedDate, row: DateRow | undefined, lists: string[]) {
  const { allDay, from, until } = date.when;
  const { title, text, place, link } = eventContent(date);
  return {
    title,
    text: text || (row?.text ?? ""),
    place: place || (row?.place ?? ""),
    link: link || (row?.link ?? ""),
    when: { allDay, from, until },
    repeat: date.repeat,
    lists,
    answerUntil: row?.answerUntil ?? "",
    places: row?.places ?? null,
    reminders: row?.reminders ?? [],
  };
}

function lineOf(
  step: DateImportLine["step"],
  { title, when, place }: Pick<DateRow, "title" | "when" | "place">,
  list: string,
  note: string,
): DateImportLine {
  return { step, row: 0, title, when: shown(when), place, list, note };
}

/** Everything that is to be done, as one word: what is carried out is what was shown. */
function planOf(steps: readonly Step[]): string {
  const all = steps.map(({ line, row, content, date }) => [
    line,
    row?.id,
    row?.sequence,
    content,
    date?.key,
    date?.changes,
  ]);
  return createHash("sha256").update(JSON.stringify(all)).digest("hex");
}

async function carryOut(
  db: Database,
  caller: Caller,
  { line, row, content, date }: Step,
  importName: string,
): Promise<unknown> {
  if (line.step === "gone" && row !== undefined)
    return callOff(db, caller, row.id, t("dates.notOnTheListAnyMore"));
  if (content === undefined || date === undefined) return undefined;
  if (row === undefined)
    return storeNewDate(db, caller, content, {
      changes: date.changes,
      importName,
      importKey: date.key,
    });
  return storeChangedDate(db, caller, row.id, { ...content, sequence: row.sequence }, date.changes);
}
