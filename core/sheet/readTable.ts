import { dateOrder, type ColumnOrder } from "../dates/dateOrder";
import type { DateOrder } from "../dates/readMoment";
import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import { askColumns, type ColumnQuestion } from "./columns/askColumns";
import type { Evidence } from "./columns/evidence";
import { explain } from "./columns/explain";
import { nameOrder, type NameOrder } from "./columns/nameOrder";
import { profileColumn } from "./columns/profileColumn";
import { titlePoints } from "./columns/titlePoints";
import { whyNoIdentity } from "./countsRows";
import { findHeader, headerAt, type FoundHeader } from "./findHeader";
import { lexicon } from "./lexicon/lexicon";
import { meaningOf } from "./meanings/allMeanings";
import type { MeaningId } from "./meanings/meaning";
import type { KnownWords } from "./columns/knownWords";
import { proposeMeanings, type ColumnMeaning } from "./proposeMeanings";
import { groupNamedIn, plainClassName, type GroupNamed } from "./shapes/className";
import { sortRows, type AsideReason, type SortedRows } from "./shapes/sortRows";
import {
  columnLetters,
  type FileFault,
  type OrFileFault,
  type Sheet,
  type Workbook,
} from "./sheet";

export type { AsideReason };

/** A column of the table. `index` counts from 0. */
export interface TableColumn extends ColumnMeaning {
  index: number;
  title: string;
  group: string;
  /** In a column of dates, whether the day or the month comes first; in one of whole names, which part does. */
  order?: ColumnOrder | NameOrder;
  /** Why it is taken for what it is, in a sentence; left out where a person has said so. */
  why?: string;
  /** What else it could be, the likeliest first. */
  others?: readonly { meaning: MeaningId; confidence: number }[];
  /** How sure its title alone makes one of it, 0 to 1. */
  sure?: number;
}

/** What lines between blocks of rows say. */
export type HeadingMeaning = "classes" | "teams" | "site" | "student.level";

/** A sheet taken apart into its header, its data rows and what is set aside. Rows count from 0. */
export interface Table {
  sheet: string;
  /** -1 where the sheet has no titles. */
  headerRow: number;
  columns: TableColumn[];
  rows: number[];
  aside: { row: number; why: AsideReason }[];
  /** The lines between blocks, and what they say; left out where there are none. */
  headings?: { meaning: HeadingMeaning; lines: { row: number; text: string }[] };
  /** What a line above the table, or the name of the sheet or file, says of all its rows. */
  everyRow?: GroupNamed;
  /** Whether people have two surnames as a rule. */
  twoSurnames?: boolean;
  /** Whether level and class together name the class: level 5 and section B are 5B. */
  joinLevel?: boolean;
  /** What a person should know about how its columns were taken, in sentences. */
  notes: string[];
}

/** What a person settled about a source: which sheet, which row is the header, what each column holds. */
export interface ReadingPlan {
  sheet: string;
  /** -1 where the sheet has no titles. */
  headerRow: number;
  columns: {
    title: string;
    meaning: ColumnMeaning["meaning"];
    slot: number;
    /** Which comes first: in a column of dates the day or the month, in one of whole names the surname or the given name. */
    order?: DateOrder | NameOrder | undefined;
  }[];
  /** Further sheets that are read along, with the same columns: one sheet for each class. */
  others?: string[];
  /** The lines between blocks of rows, counted from 0, and what they say. */
  headings?: { meaning: HeadingMeaning; rows: number[] } | undefined;
  /** What holds for every row of the sheet. */
  everyRow?: GroupNamed | undefined;
  twoSurnames?: boolean | undefined;
  joinLevel?: boolean | undefined;
}

/** What is known of a sheet before it is understood. */
export interface SheetHints {
  /** The file's name, which may name the class. */
  file?: string;
  /** The sheet and the row of titles, where somebody has said so; -1 for a sheet without titles. */
  sheet?: string | undefined;
  headerRow?: number | undefined;
  /** What somebody has said of columns, by index from 0. */
  settled?: ReadonlyMap<number, Settled> | undefined;
  /** What the house knows already. */
  known?: KnownWords | undefined;
}

/** What somebody has said that a column holds. */
export interface Settled {
  meaning: MeaningId;
  slot: number;
}

/**
 * Takes a workbook apart into a table. Without a plan it chooses the sheet that is most like a roster, finds the header and
 * proposes the meanings; with one it follows the plan.
 *
 * @returns the table, or the fault `empty-sheet`, `no-header` or `no-such-sheet`
 */
export function readTable(
  workbook: Workbook,
  plan?: ReadingPlan,
  hints: SheetHints = {},
): OrFileFault<{ table: Table; sheet: Sheet }> {
  const wanted = plan?.sheet ?? hints.sheet;
  const sheet =
    wanted === undefined
      ? chooseSheet(workbook)
      : workbook.sheets.find((candidate) => candidate.name === wanted);
  if (sheet === undefined) {
    const names = workbook.sheets.map(({ name }) => `"${name}"`).join(", ");
    return fault(
      "no-such-sheet",
      `The sheet "${wanted ?? ""}" is not in this file. It has ${names}. Choose one of them.`,
    );
  }
  if (sheet.rows.every((row) => row.every((cell) => cell.trim() === "")))
    return fault(
      "empty-sheet",
      `The sheet "${sheet.name}" is empty. Choose another sheet of this file, or another file.`,
    );
  const row = plan?.headerRow ?? hints.headerRow;
  const header = row === undefined ? findHeader(sheet) : headerAt(sheet, row);
  if (header === undefined)
    return fault(
      "no-header",
      `Nothing in the sheet "${sheet.name}" looks like a table: rows of several cells below each other. Choose another sheet or file.`,
    );
  return {
    ok: true,
    sheet,
    table:
      plan === undefined
        ? propose(sheet, header, { ...hints, isNamed: workbook.format !== "text" })
        : follow(sheet, header, plan),
  };
}

/** A table with the sheet that it stands in. */
export interface TableInSheet {
  table: Table;
  sheet: Sheet;
}

/**
 * Takes a workbook apart that may have a sheet for each class: all visible sheets with nearly the same
 * titles as the best one are read, each as a table of its own; otherwise just the best one.
 */
export function readTables(
  workbook: Workbook,
  plan?: ReadingPlan,
  hints: SheetHints = {},
): OrFileFault<{ tables: TableInSheet[] }> {
  const best = readTable(workbook, plan, hints);
  if (!best.ok) return best;
  if (plan !== undefined) return readAlong(workbook, plan, best);
  const alike = workbook.sheets
    .filter((sheet) => !sheet.hidden)
    .flatMap((sheet): TableInSheet[] => {
      if (sheet === best.sheet) return [best];
      const header = findHeader(sheet);
      return header !== undefined && isAlike(header, best.table)
        ? [{ sheet, table: follow(sheet, header, byTitle(best.table, header)) }]
        : [];
    });
  return {
    ok: true,
    tables: withoutRowCounts(alike.length > 1 ? eachAClass(alike) : [best]),
  };
}

/** Whether a header has nearly the same titles as a table. */
function isAlike({ titles }: FoundHeader, { columns }: Table): boolean {
  const own = new Set(titles.map(fold).filter((title) => title !== ""));
  const wanted = columns.map(({ title }) => fold(title)).filter((title) => title !== "");
  const shared = wanted.filter((title) => own.has(title)).length;
  return (
    (wanted.length > 0 &&
      shared >= Math.max(2, wanted.length * 0.7) &&
      own.size <= wanted.length * 1.5) ||
    (wanted.length === 1 && shared === 1 && own.size === 1)
  );
}

/** A plan for another sheet with the titles of a table: each column by its title. */
function byTitle(table: Table, { titles, row }: FoundHeader): ReadingPlan {
  const left = [...table.columns];
  const columns = titles.map((title, index): ReadingPlan["columns"][number] => {
    const key = fold(title);
    const straight = left.findIndex((own) => own.index === index && fold(own.title) === key);
    const at =
      straight >= 0 ? straight : left.findIndex((own) => key !== "" && fold(own.title) === key);
    const [own] = at < 0 ? [] : left.splice(at, 1);
    return own === undefined
      ? { title, meaning: "unread", slot: 0 }
      : { ...columnPlan(own), title };
  });
  return { sheet: table.sheet, headerRow: row, columns, ...manners(table) };
}

/** What of a table a plan keeps beside its columns. */
function manners({
  twoSurnames,
  joinLevel,
}: Pick<ReadingPlan, "twoSurnames" | "joinLevel">): Pick<Table, "twoSurnames" | "joinLevel"> {
  return {
    ...(twoSurnames === undefined ? {} : { twoSurnames }),
    ...(joinLevel === undefined ? {} : { joinLevel }),
  };
}

/** A column as a plan keeps it. */
function columnPlan({ title, meaning, slot, order }: TableColumn): ReadingPlan["columns"][number] {
  return {
    title,
    meaning,
    slot,
    ...(order === undefined || order === "unsure" ? {} : { order }),
  };
}

/** Everything about a table that has to be kept so that it can be read in the same way again. */
export function planOf(table: Table, others: readonly string[] = []): ReadingPlan {
  return {
    sheet: table.sheet,
    headerRow: table.headerRow,
    columns: table.columns.map(columnPlan),
    ...(others.length === 0 ? {} : { others: [...others] }),
    ...(table.headings === undefined
      ? {}
      : {
          headings: {
            meaning: table.headings.meaning,
            rows: table.headings.lines.map(({ row }) => row),
          },
        }),
    ...(table.everyRow === undefined || others.length > 0 ? {} : { everyRow: table.everyRow }),
    ...manners(table),
  };
}

/** The questions that a table leaves to a person. */
export function questionsOf(table: Table): ColumnQuestion[] {
  return askColumns(table.columns);
}

/** Where every class has a sheet of its own and no column names it, the line above its table is the class, or the sheet's name. */
function eachAClass(tables: TableInSheet[]): TableInSheet[] {
  if (tables.some(({ table }) => namesGroups(table))) return tables;
  const lines = tables.map(({ sheet, table }) => lineAbove(sheet, table.headerRow));
  const isTold = lines.every((line) => line !== "") && new Set(lines).size === tables.length;
  return tables.map(({ sheet, table }, at) => ({
    sheet,
    table: {
      ...table,
      everyRow: nameOfGroup(isTold ? (lines[at] ?? "") : sheet.name),
    },
  }));
}

function nameOfGroup(text: string): GroupNamed {
  return { meaning: groupNamedIn(text)?.meaning ?? "classes", value: plainClassName(text) };
}

/** Whether a table says itself to which class or team its rows belong. */
export function namesGroups({ columns, headings }: Pick<Table, "columns" | "headings">): boolean {
  return headings !== undefined || columns.some(({ meaning }) => GROUPS.has(meaning));
}

const GROUPS: ReadonlySet<MeaningId> = new Set<MeaningId>([
  "classes",
  "teams",
  "classes.mark",
  "teams.mark",
]);

function lineAbove(sheet: Sheet, headerRow: number): string {
  const filled = (sheet.rows[headerRow - 1] ?? []).filter((cell) => cell.trim() !== "");
  return filled.length === 1 ? tidyLine(filled[0] ?? "") : "";
}

/**
 * Says what a person should know before a table is imported: columns with names or addresses that aren't used, and what it
 * means that there is no class, surname or address.
 */
export function tableNotes({ table, sheet }: TableInSheet): string[] {
  const has = (...meanings: readonly MeaningId[]): boolean =>
    table.columns.some(({ meaning }) => meanings.includes(meaning));
  if (!has("student.name", "student.given", "student.surname")) return [];
  const unused = table.columns.flatMap(({ index, title, meaning }) => {
    if (meaning !== "unread" && meaning !== "private") return [];
    const { address, nameLike, count, distinct, wordsEach } = profileColumn(
      table.rows.map((row) => sheet.rows[row]?.[index] ?? ""),
    );
    const named = title === "" ? `column ${columnLetters(index)}` : `"${title}"`;
    if (count > 0 && address > 0.3) return [`${named} (email addresses)`];
    const areNames = nameLike > 0.9 && wordsEach > 1.4 && wordsEach < 4 && distinct > 0.6;
    return count > 3 && areNames && meaning === "unread" ? [`${named} (perhaps names)`] : [];
  });
  return [
    ...(unused.length === 0 ? [] : [`Not used: ${unused.join(", ")}.`]),
    ...(namesGroups(table) || table.everyRow !== undefined
      ? []
      : [
          "No column names a class or team: the children are imported without one, and no list is made for a class.",
        ]),
    ...(table.everyRow === undefined
      ? []
      : [
          `Everybody here is imported into "${table.everyRow.value}", as the line above the table or the name says.`,
        ]),
    ...(has("student.name", "student.surname")
      ? []
      : ["No column holds surnames: two children of one first name can't be told apart."]),
    ...(has("guardian.address", "student.address")
      ? []
      : ["No column holds email addresses: nobody can be reached by this sheet alone."]),
  ];
}

/** Takes no number for a student's that only counts rows, or stands with several names, over all sheets of the source. */
function withoutRowCounts(tables: TableInSheet[]): TableInSheet[] {
  const column = tables[0]?.table.columns.find(({ meaning }) => meaning === "student.number");
  if (column === undefined) return tables;
  const why = whyNoIdentity(tables, column.sure ?? 0);
  if (why === undefined) return tables;
  return tables.map(({ sheet, table }, at) => ({
    sheet,
    table: {
      ...table,
      notes: at === 0 ? [...table.notes, why] : table.notes,
      columns: table.columns.map((own) =>
        own.meaning === "student.number" ? { ...own, meaning: "unread", confidence: 1 } : own,
      ),
    },
  }));
}

/** Reads the further sheets of a plan: by their own header row, with the plan's columns. */
function readAlong(
  workbook: Workbook,
  plan: ReadingPlan,
  best: TableInSheet,
): OrFileFault<{ tables: TableInSheet[] }> {
  const tables: TableInSheet[] = [{ table: best.table, sheet: best.sheet }];
  for (const name of plan.others ?? []) {
    const sheet = workbook.sheets.find((candidate) => candidate.name === name);
    const header = sheet === undefined ? undefined : findHeader(sheet);
    if (sheet === undefined || header === undefined)
      return fault(
        "no-such-sheet",
        `The sheet "${name}", which is read along with "${plan.sheet}", is ${sheet === undefined ? "not in this file" : "without a table"}. Look at the file once more and choose its sheets again.`,
      );
    tables.push({ sheet, table: follow(sheet, header, byTitle(best.table, header)) });
  }
  return { ok: true, tables: tables.length > 1 ? eachAClass(tables) : tables };
}

/** Of several sheets the one that is most like a roster: titles that are known, addresses, many rows. */
function chooseSheet(workbook: Workbook): Sheet | undefined {
  const visible = workbook.sheets.filter((sheet) => !sheet.hidden);
  const scored = (visible.length > 0 ? visible : workbook.sheets).map((sheet) => {
    const header = findHeader(sheet);
    const filled = sheet.rows.filter((row) => row.filter((cell) => cell !== "").length > 1);
    const addresses = filled.filter((row) => row.some((cell) => cell.includes("@"))).length;
    return {
      sheet,
      score:
        header === undefined
          ? -1
          : Math.min(header.points, 12) +
            Math.log2(1 + filled.length) +
            (addresses * 3 > filled.length ? 4 : addresses > 0 ? 1 : 0),
    };
  });
  return scored.sort((a, b) => b.score - a.score)[0]?.sheet;
}

/** The columns of a sheet with their data cells. */
function columnsIn(sheet: Sheet, header: FoundHeader, rows: readonly number[]) {
  const width = sheet.rows.reduce(
    (widest, row, index) => (index >= header.row ? Math.max(widest, row.length) : widest),
    0,
  );
  return Array.from({ length: width }, (_, index) => ({
    title: header.titles[index] ?? "",
    group: header.groups[index] ?? "",
    cells: rows.map((row) => sheet.rows[row]?.[index] ?? ""),
  }));
}

/** Understands a sheet of which nothing is known. */
function propose(
  sheet: Sheet,
  header: FoundHeader,
  { file = "", isNamed, settled = new Map(), known }: SheetHints & { isNamed: boolean },
): Table {
  const sorted = sortRows(sheet, header);
  const found = columnsIn(sheet, header, sorted.rows);
  const base = { sheet: sheet.name, headerRow: header.row, rows: sorted.rows, aside: sorted.aside };
  if (settled.size === 0 && isPlainAddresses(found))
    return {
      ...base,
      notes: [],
      columns: found.map(({ title, group }, index) => ({
        index,
        title,
        group,
        meaning: "guardian.address",
        slot: index + 1,
        confidence: 1,
      })),
    };
  const { columns: meanings, others, evidence } = proposeMeanings(found, { settled, known });
  const labels = meanings.map(({ meaning }) => meaning);
  const titles = found.map(({ title, group }, index) =>
    title !== "" ? title : group !== "" ? group : `column ${index + 1}`,
  );
  const isDouble = hasTwoSurnames(labels, evidence);
  const columns = found.map(({ title, group, cells }, index): TableColumn => {
    const own = meanings[index] ?? { meaning: "unread", slot: 0, confidence: 0 };
    const order = orderOf(own.meaning, index, cells, labels, evidence);
    return {
      index,
      title,
      group,
      ...own,
      ...(order === undefined ? {} : { order }),
      why: settled.has(index) ? "You have said so." : explain(index, labels, evidence, titles),
      others: others[index] ?? [],
      sure: titlePoints(meaningOf(own.meaning), evidence.columns[index]?.title ?? NO_TITLE) / 5,
    };
  });
  const table: Table = {
    ...base,
    columns,
    notes: [],
    ...(isDouble ? { twoSurnames: true } : {}),
    ...(joinsLevel(labels, evidence) ? { joinLevel: true } : {}),
    ...headingsOf(sorted, labels),
  };
  const everyRow = namesGroups(table)
    ? undefined
    : groupOfAll(sheet, header, [isNamed ? sheet.name : "", file]);
  return everyRow === undefined ? table : { ...table, everyRow };
}

const NO_TITLE = {
  whose: new Map(),
  what: new Map(),
  slot: "",
  order: "" as const,
  known: false,
  words: 0,
};

/** Takes a sheet apart as somebody has settled it. */
function follow(sheet: Sheet, header: FoundHeader, plan: ReadingPlan): Table {
  const sorted = sortRows(sheet, header);
  const rows =
    plan.headings === undefined || plan.sheet !== sheet.name
      ? undefined
      : new Set(plan.headings.rows);
  const lines =
    rows === undefined
      ? sorted.headings
      : [...rows].map((row) => ({
          row,
          text: tidyLine((sheet.rows[row] ?? []).find((cell) => cell.trim() !== "") ?? ""),
        }));
  const meaning = plan.headings?.meaning;
  const data =
    rows === undefined
      ? sorted.rows
      : [...sorted.rows, ...sorted.headings.map(({ row }) => row)]
          .filter((row) => !rows.has(row) && row > header.row)
          .sort((a, b) => a - b);
  const found = columnsIn(sheet, header, []);
  const isPlain =
    header.row < 0 &&
    plan.columns.every(({ meaning: own }) => own === "guardian.address" || own === "unread");
  const columns = found.map(({ title, group }, index): TableColumn => {
    const own: ReadingPlan["columns"][number] = plan.columns[index] ?? {
      title,
      meaning: "unread",
      slot: 0,
    };
    const order =
      own.order ??
      (own.meaning === "answered"
        ? dateOrder(data.map((row) => sheet.rows[row]?.[index] ?? ""))
        : undefined);
    const { slotted } = meaningOf(own.meaning);
    return {
      ...(order === undefined ? {} : { order }),
      index,
      title,
      group,
      meaning: isPlain ? "guardian.address" : own.meaning,
      slot: isPlain ? index + 1 : slotted ? Math.max(own.slot, 1) : own.slot,
      confidence: 1,
    };
  });
  return {
    sheet: sheet.name,
    headerRow: header.row,
    columns,
    rows: data,
    aside:
      rows === undefined
        ? sorted.aside
        : [
            ...sorted.aside.filter(({ why, row }) => why !== "heading" && !rows.has(row)),
            ...[...rows]
              .filter((row) => row > header.row)
              .map((row) => ({ row, why: "heading" as const })),
          ],
    notes: [],
    ...(meaning === undefined || lines.length === 0 ? {} : { headings: { meaning, lines } }),
    ...(plan.everyRow === undefined || plan.sheet !== sheet.name
      ? {}
      : { everyRow: plan.everyRow }),
    ...manners(plan),
  };
}

/** Whether sections are single letters that come in several levels, so that only both together name a class. */
function joinsLevel(labels: readonly MeaningId[], evidence: Evidence): boolean {
  const section = evidence.columns[labels.indexOf("classes")];
  const level = evidence.columns[labels.indexOf("student.level")];
  if (section === undefined || level === undefined || section.profile.count < 4) return false;
  const levels = new Map<string, Set<string>>();
  section.cells.forEach((cell, row) => {
    const own = level.cells[row] ?? "";
    if (cell !== "" && own !== "") levels.set(cell, (levels.get(cell) ?? new Set()).add(own));
  });
  return (
    [...levels.keys()].every((cell) => /^\p{L}$/u.test(cell)) &&
    [...levels.values()].some((own) => own.size > 1)
  );
}

/** What lines between blocks say: the class, where no column does; a team or site, where the class is known. */
function headingsOf(
  { headings }: SortedRows,
  labels: readonly MeaningId[],
): Pick<Table, "headings"> {
  if (headings.length === 0) return {};
  const named = groupNamedIn(headings[headings.length - 1]?.text ?? "");
  const has = (meaning: MeaningId): boolean => labels.includes(meaning);
  const isFree = (meaning: HeadingMeaning): boolean =>
    !has(meaning) && !(meaning !== "site" && has(`${meaning}.mark` as MeaningId));
  const meaning = ([named?.meaning ?? "classes", "classes", "teams", "site"] as const).find(isFree);
  return meaning === undefined ? {} : { headings: { meaning, lines: headings } };
}

/** The class or team that a line above the table names, or else the sheet's or the file's name. */
function groupOfAll(
  sheet: Sheet,
  header: FoundHeader,
  [name = "", file = ""]: readonly string[],
): GroupNamed | undefined {
  const above = sheet.rows
    .slice(0, Math.max(0, header.row))
    .flatMap((row) => [row.filter((cell) => cell.trim() !== "").join(" "), ...row])
    .filter((cell) => cell.trim() !== "" && cell.length <= 120);
  for (const text of [...above, name, file.replace(/\.[a-z0-9]{1,5}$/i, "")]) {
    const found = groupNamedIn(text);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** Whether there is nothing but addresses: a plain column, or a paste of them. */
function isPlainAddresses(columns: readonly { cells: readonly string[] }[]): boolean {
  const cells = columns.flatMap((column) => column.cells).filter((cell) => cell.trim() !== "");
  const addresses = cells.filter((cell) => cell.includes("@")).length;
  const others = columns.filter((column) => {
    const filled = column.cells.filter((cell) => cell.trim() !== "");
    return filled.filter((cell) => cell.includes("@")).length * 2 < filled.length;
  });
  return addresses > 1 && addresses * 100 >= cells.length * 60 && others.length === 0;
}

/** Whether people have two surnames: the language says so, or the surnames in the sheet do. */
function hasTwoSurnames(labels: readonly MeaningId[], evidence: Evidence): boolean {
  const surnames = labels.flatMap((label, index) => {
    const profile = evidence.columns[index]?.profile;
    return label.endsWith(".surname") && profile !== undefined && profile.count > 3
      ? [profile]
      : [];
  });
  if (surnames.length > 0) return surnames.some(({ wordsEach }) => wordsEach >= 1.6);
  const shared = wholeNamesShare(labels, evidence);
  if (shared !== undefined) return shared;
  const [likeliest] = [...evidence.languages].sort((a, b) => b[1] - a[1]);
  const { languages } = lexicon();
  return languages.find(({ code }) => code === likeliest?.[0])?.twoSurnames === true;
}

/** Whether children and guardians share two surnames as a rule; undefined where too few share any. */
function wholeNamesShare(labels: readonly MeaningId[], evidence: Evidence): boolean | undefined {
  const students = labels.flatMap((label, at) =>
    label === "student.name" ? [evidence.columns[at]] : [],
  );
  const guardians = labels.flatMap((label, at) =>
    label === "guardian.name" ? [evidence.columns[at]] : [],
  );
  let one = 0;
  let two = 0;
  for (const student of students)
    for (const guardian of guardians)
      student?.words.forEach((words, row) => {
        const shared = words.filter((word) => guardian?.words[row]?.includes(word)).length;
        if (words.length < 3 || shared === 0) return;
        if (shared > 1) two++;
        else one++;
      });
  return one + two < 4 ? undefined : two > one;
}

/** Whether the day or the month comes first in a column of dates, or which part in one of whole names. */
function orderOf(
  meaning: MeaningId,
  index: number,
  cells: readonly string[],
  labels: readonly MeaningId[],
  evidence: Evidence,
): TableColumn["order"] {
  if (meaning === "answered") return dateOrder(cells);
  if (meaning !== "student.name" && meaning !== "guardian.name") return undefined;
  const own = evidence.columns[index];
  const others = labels.flatMap((label, at) =>
    at !== index &&
    (label === "student.surname" ||
      label === "guardian.surname" ||
      label === "student.name" ||
      label === "guardian.name")
      ? [evidence.columns[at]]
      : [],
  );
  const rows = own?.cells.length ?? 0;
  const surnames = Array.from(
    { length: rows },
    (_, row) => new Set(others.flatMap((other) => other?.words[row] ?? [])),
  );
  const step = Math.max(1, Math.floor(cells.length / Math.max(1, rows)));
  const sampled = cells.filter((_, row) => row % step === 0).slice(0, rows);
  const addresses = labels.flatMap((label, at) =>
    label.endsWith("address") ? [evidence.columns[at]] : [],
  );
  const boxes = sampled.map((_, row) =>
    addresses.map((other) => (other?.cells[row] ?? "").split("@")[0] ?? "").join(" "),
  );
  const isOwn = meaning === "guardian.name" || labels.includes("student.address");
  return nameOrder(sampled, surnames, { boxes, isOwn }, own?.title.order ?? "");
}

/** What stands in the way of reading a table into the house: nothing in it names a student. Undefined when nothing does. */
export function tableFault(table: Table): FileFault | undefined {
  const has = new Set(table.columns.map((column) => column.meaning));
  const place = `The sheet "${table.sheet}"`;
  const isNamed = has.has("student.name") || has.has("student.surname") || has.has("student.given");
  if (table.headerRow < 0 && !isNamed && has.has("guardian.address"))
    return {
      code: "plain-addresses",
      sentence: `${place} is a plain column of addresses: it says at whom mail would arrive, not who they are or where they belong. Add the students' names and classes beside them; or keep the addresses on a list, on that list's own page.`,
    };
  if (table.rows.length === 0)
    return {
      code: "no-rows",
      sentence: `${place} has titles in row ${table.headerRow + 1} but no rows below them. Choose another sheet, or fill the rows in and drop it again.`,
    };
  if (!isNamed) {
    return {
      code: "no-name-column",
      sentence: `${place} has no column with the students' names. Say above the columns which one holds them, or choose another sheet.`,
    };
  }
  return undefined;
}

function fault(code: FileFault["code"], sentence: string): { ok: false; fault: FileFault } {
  return { ok: false, fault: { code, sentence } };
}
