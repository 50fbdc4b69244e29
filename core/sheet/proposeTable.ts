import { spreadOver } from "./columns/spreadOver";
import { message, sentences } from "@amigo/language/message";
import { dateOrder } from "../dates/dateOrder";
import { fold } from "../text/fold";
import type { Evidence } from "./columns/evidence";
import { explain } from "./columns/explain";
import type { KnownWords } from "./columns/knownWords";
import { nameOrder } from "./columns/nameOrder";
import { titlePoints } from "./columns/titlePoints";
import { columnsIn, type FoundHeader } from "./findHeader";
import { lexicon } from "./lexicon/lexicon";
import { GROUP_MEANINGS } from "./meanings/groupMeanings";
import { meaningOf } from "./meanings/allMeanings";
import type { MeaningId } from "./meanings/meaning";
import { namesGroups } from "./namesGroups";
import { proposeMeanings } from "./proposeMeanings";
import { groupNamedIn, type GroupNamed } from "./shapes/className";
import { sortRows, type SortedRows } from "./shapes/sortRows";
import type { Sheet } from "./sheet";
import type { TableColumn, HeadingMeaning, Table, SheetHints } from "./table";

/** Understands a sheet of which nothing is known. */
export function proposeTable(
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
  const {
    columns: meanings,
    others,
    guessed,
    evidence,
  } = proposeMeanings(found, { settled, known });
  const labels = meanings.map(({ meaning }) => meaning);
  const titles = found.map(({ title, group }, index) =>
    title !== "" ? title : group !== "" ? group : `column ${index + 1}`,
  );
  const isDouble = hasTwoSurnames(labels, evidence);
  const columns = found.map(({ title, group, cells }, index): TableColumn => {
    const columnMeaning = meanings[index] ?? { meaning: "unread", slot: 0, confidence: 0 };
    const isEmpty = evidence.columns[index]?.profile.count === 0;
    const order = orderOf(columnMeaning.meaning, index, cells, labels, evidence);
    return {
      index,
      title,
      group,
      ...columnMeaning,
      ...(order === undefined ? {} : { order }),
      why: settled.has(index)
        ? message("sheet.youSaidSo")
        : explain(index, labels, evidence, titles),
      // What an empty column might be is no question to anybody.
      others: isEmpty ? [] : (others[index] ?? []),
      ...(isEmpty ? { isEmpty } : {}),
      ...(guessed.has(index) ? { guessed: true } : {}),
      sure:
        titlePoints(meaningOf(columnMeaning.meaning), evidence.columns[index]?.title ?? NO_TITLE) /
        5,
    };
  });
  const table: Table = {
    ...base,
    columns,
    notes: [],
    ...(evidence.staff === undefined ? {} : { staff: evidence.staff }),
    ...(isDouble ? { twoSurnames: true } : {}),
    ...(joinsLevel(labels, evidence) ? { joinLevel: true } : {}),
    ...headingsOf(sorted, labels),
  };
  const list = evidence.columns[labels.indexOf("children")];
  const isPlainList = list !== undefined && list.profile.childrenWithClasses <= 0.5;
  const namesNone = isPlainList && !labels.some((label) => GROUP_MEANINGS.has(label));
  if (namesGroups(table) && !(namesNone && table.headings === undefined)) return table;
  const everyRow = groupOfAll(sheet, header, [isNamed ? sheet.name : "", file]);
  return everyRow === undefined
    ? withLevelAsClass(table, evidence, known, settled)
    : { ...table, everyRow };
}

/** Where nothing else names a class, a year or grade is one: its children get a list. A house that has other classes keeps them. */
function withLevelAsClass(
  table: Table,
  evidence: Evidence,
  known: KnownWords | undefined,
  settled: ReadonlyMap<number, unknown>,
): Table {
  const levels = table.columns.filter(({ meaning }) => meaning === "student.level");
  const [level] = levels;
  const isKnown =
    known === undefined ||
    known.classes.length === 0 ||
    known.classes.some((name) => evidence.columns[level?.index ?? -1]?.cells.includes(fold(name)));
  if (level === undefined || levels.length > 1 || settled.has(level.index) || !isKnown)
    return table;
  return {
    ...table,
    columns: table.columns.map((column) =>
      column === level
        ? {
            ...column,
            meaning: "classes",
            others: [
              { meaning: "student.level", confidence: 1 - column.confidence },
              ...(column.others ?? []).filter(({ meaning }) => meaning !== "classes"),
            ],
            why: sentences(column.why, message("sheet.onlyGroup")),
          }
        : column,
    ),
  };
}

const NO_TITLE = {
  whose: new Map(),
  what: new Map(),
  slot: "",
  order: "" as const,
  known: false,
  words: 0,
  strange: [],
};

/** Whether sections are single letters that come in several levels, so that only both together name a class. */
function joinsLevel(labels: readonly MeaningId[], evidence: Evidence): boolean {
  const section = evidence.columns[labels.indexOf("classes")];
  const level = evidence.columns[labels.indexOf("student.level")];
  if (section === undefined || level === undefined || section.profile.count < 4) return false;
  const levels = new Map<string, Set<string>>();
  section.cells.forEach((cell, row) => {
    const foundCell = level.cells[row] ?? "";
    if (cell !== "" && foundCell !== "")
      levels.set(cell, (levels.get(cell) ?? new Set()).add(foundCell));
  });
  return (
    [...levels.keys()].every((cell) => /^\p{L}$/u.test(cell)) &&
    [...levels.values()].some((candidate) => candidate.size > 1)
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
  const column = evidence.columns[index];
  const others = labels.flatMap((label, at) =>
    at !== index &&
    (label === "student.surname" ||
      label === "guardian.surname" ||
      label === "student.name" ||
      label === "guardian.name")
      ? [evidence.columns[at]]
      : [],
  );
  const rows = column?.cells.length ?? 0;
  const surnames = Array.from(
    { length: rows },
    (_, row) => new Set(others.flatMap((other) => other?.words[row] ?? [])),
  );
  const sampled = spreadOver(cells.length, rows).map((row) => cells[row] ?? "");
  const addresses = labels.flatMap((label, at) =>
    label.endsWith("address") ? [evidence.columns[at]] : [],
  );
  const boxes = sampled.map((_, row) =>
    addresses.map((other) => (other?.cells[row] ?? "").split("@")[0] ?? "").join(" "),
  );
  const isOwn =
    meaning === "guardian.name" ||
    labels.includes("student.address") ||
    labels.includes("person.kind");
  return nameOrder(sampled, surnames, { boxes, isOwn }, column?.title.order ?? "");
}
