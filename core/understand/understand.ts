import { keyOf, type Fact, type Facts } from "../facts/fact";
import type { Message } from "@amigo/language/message";
import { indexFacts } from "../facts/indexFacts";
import type { Person } from "../facts/factIndex";
import { deriveFacts } from "../identity/deriveFacts";
import type { Question } from "../identity/question";
import type { KnownWords } from "../sheet/columns/knownWords";
import { readAll, type WholeReading } from "../sheet/readAll";
import { otherSeasonNotes } from "../sheet/readingSummary";
import { questionsOf } from "../sheet/readingPlan";
import { readTables } from "../sheet/readTable";
import { tableFault, tableNotes } from "../sheet/tableNotes";
import { columnLetters, type FileFault, type Workbook } from "../sheet/sheet";
import type { Table, SheetHints, TableInSheet } from "../sheet/table";
import type { RowRecord, CellFault } from "../sheet/rowRecord";

/** A workbook with the name of its file. */
export interface NamedWorkbook {
  file: string;
  workbook: Workbook;
}

interface UnderstoodFile {
  file: string;
  tables: TableInSheet[];
  records: RowRecord[];
  faults: CellFault[];
  otherSeasons: WholeReading["otherSeasons"];
}

/** What was understood of some files, in plain values. */
export interface Understood {
  files: {
    file: string;
    sheet: string;
    headerRow: number;
    rows: number;
    columns: { title: string; meaning: string; confidence: number }[];
  }[];
  students: {
    number: string | null;
    given: string;
    family: string;
    level: number | string | null;
    site: string | null;
    classes: string[];
    teams: string[];
    guardians: {
      given: string;
      family: string;
      address: string | null;
      relationship: string | null;
    }[];
  }[];
  faults: {
    file: string;
    sheet: string;
    row: number;
    column: string;
    written: string;
    fault: string;
    answer: CellFault["answer"];
    proposal: string | null;
  }[];
  questions: {
    file: string;
    row: number;
    about: Message | string;
    choices: (Message | string)[];
  }[];
}

/**
 * Understands some files together, in the given order of precedence, as a house without any past would.
 *
 * @param hints what somebody has said of the sheet, its titles and columns
 * @returns what was understood, and in sentences what a person should know about how the files were taken; or the
 *   fault of the first file that can't be read
 */
export function understand(
  books: readonly NamedWorkbook[],
  hints: SheetHints = {},
):
  | { ok: true; understood: Understood; notes: { file: string; note: Message }[] }
  | { ok: false; file: string; fault: FileFault } {
  const files: UnderstoodFile[] = [];
  for (const { file, workbook } of books) {
    const known = files.length === 0 ? hints.known : wordsOf(files, hints.known);
    const found = readTables(workbook, undefined, { ...hints, file, known });
    if (!found.ok) return { ok: false, file, fault: found.fault };
    files.push({ file, tables: found.tables, ...readAll(found.tables) });
  }
  const {
    facts,
    questions,
    students: placed,
  } = deriveFacts(
    files.map(({ file, records }) => ({ source: file, reading: file, records })),
    new Map(),
    { studentAddress: "" },
  );
  return {
    ok: true,
    understood: {
      files: files.flatMap(describeFile),
      students: describeStudents(facts, placesOf(files, placed)),
      faults: files.flatMap(describeFaults),
      questions: [
        ...files.flatMap(columnQuestions),
        ...files.flatMap(addressQuestions),
        ...questions.map(describeQuestion),
      ],
    },
    notes: files.flatMap(({ file, tables, otherSeasons }) =>
      [
        ...tables.flatMap(({ table }) => table.notes),
        ...tables.slice(0, 1).flatMap(tableNotes),
        ...otherSeasonNotes(otherSeasons),
      ].map((note) => ({ file, note })),
    ),
  };
}

/** What is known when a further file is read: what a house knows, with the classes, teams, sites and coaches of the files before. */
function wordsOf(files: readonly UnderstoodFile[], before?: KnownWords): KnownWords {
  const records = files.flatMap((file) => file.records);
  const all = (values: readonly string[]): string[] => [
    ...new Set(values.filter((value) => value !== "")),
  ];
  return {
    titles: before?.titles ?? [],
    classes: all([...(before?.classes ?? []), ...records.flatMap(({ classes }) => classes)]),
    teams: all([...(before?.teams ?? []), ...records.flatMap(({ teams }) => teams)]),
    sites: all([...(before?.sites ?? []), ...records.map(({ site }) => site)]),
    staff: all([...(before?.staff ?? []), ...records.map(({ coach }) => coach)]),
  };
}

function describeFile({ file, tables }: UnderstoodFile): Understood["files"] {
  return tables.map(({ table }) => ({
    file,
    sheet: table.sheet,
    headerRow: table.headerRow + 1,
    rows: table.rows.length,
    columns: table.columns.map(({ title, meaning, slot, confidence }) => ({
      title,
      meaning: slot > 0 ? `${meaning} ${slot}` : meaning,
      confidence: Math.round(confidence * 100) / 100,
    })),
  }));
}

/** A sheet that names no student is asked about rather than read as empty. */
function nobodyNamed(file: string, table: Table): Understood["questions"] {
  const fault = tableFault(table);
  return fault === undefined
    ? []
    : [{ file, row: table.headerRow + 1, about: fault.sentence, choices: [] }];
}

/** What a person has to say about columns, asked at the row of the titles. */
function columnQuestions({ file, tables }: UnderstoodFile): Understood["questions"] {
  return tables.slice(0, 1).flatMap(({ table }) => [
    ...nobodyNamed(file, table),
    ...questionsOf(table).map(({ about, answers }) => ({
      file,
      row: table.headerRow + 1,
      about,
      choices: answers.map(({ label }) => label),
    })),
  ]);
}

/** Rows of which only their order tells which address is whose. */
function addressQuestions({ file, faults }: UnderstoodFile): Understood["questions"] {
  return faults
    .filter(({ fault }) => fault === "whose")
    .map(({ row, written, proposal }) => ({
      file,
      row,
      about: `Which address is whose: ${written}?`,
      choices: proposal === undefined ? [] : [proposal],
    }));
}

function describeFaults({ file, faults }: UnderstoodFile): Understood["faults"] {
  return faults.map(({ sheet, row, column, written, fault, answer, proposal }) => ({
    file,
    sheet,
    row,
    column: columnLetters(column),
    written,
    fault,
    // A cell that says there is no address needs nobody, but no address can be read from it either.
    answer: fault === "none-word" ? "unusable" : answer,
    proposal: proposal ?? null,
  }));
}

function describeStudents(
  facts: Facts,
  placed: ReadonlyMap<string, ReadonlySet<string>>,
): Understood["students"] {
  const index = indexFacts(facts);
  const cohorts = (person: Person, kind: string): string[] =>
    [...person.cohorts]
      .filter((key) => key.startsWith(`${kind}:`))
      .map((key) => index.cohorts.get(key)?.name ?? "")
      .sort();
  return [...index.people.values()]
    .filter(({ role }) => role === "student")
    .map((person) => ({
      number: person.number || null,
      given: person.given,
      family: person.family,
      level:
        person.level === ""
          ? null
          : /^\d+$/.test(person.level)
            ? Number(person.level)
            : person.level,
      site: person.site || null,
      classes: cohorts(person, "class"),
      teams: cohorts(person, "team"),
      guardians: [...person.ties].map(([id, relationship]) => {
        const guardian = index.people.get(id);
        return {
          given: guardian?.given ?? "",
          family: guardian?.family ?? "",
          address: addressFor(guardian, person.id, facts, placed),
          relationship: relationship || null,
        };
      }),
    }))
    .sort((a, b) => ((a.number ?? a.family) < (b.number ?? b.family) ? -1 : 1));
}

/** The students of each row: reading, sheet and row to students. */
function placesOf(
  files: readonly UnderstoodFile[],
  students: ReadonlyMap<RowRecord, string>,
): Map<string, Set<string>> {
  const placed = new Map<string, Set<string>>();
  for (const { file, records } of files)
    for (const record of records) {
      const place = `${file} ${record.sheet} ${record.row}`;
      placed.set(place, (placed.get(place) ?? new Set()).add(students.get(record) ?? ""));
    }
  return placed;
}

function placeOf({ origin }: Fact): string {
  return origin.from === "row" ? `${origin.reading} ${origin.sheet} ${origin.row}` : "";
}

/** A guardian's address; of several the one that stands in a row of that very student. */
function addressFor(
  guardian: Person | undefined,
  student: string,
  facts: Facts,
  placed: ReadonlyMap<string, ReadonlySet<string>>,
): string | null {
  const all = [...(guardian?.addresses ?? [])];
  if (all.length < 2) return all[0] ?? null;
  const found = all.find((address) => {
    const fact = facts.get(keyOf(guardian?.id ?? "", "address", address));
    return fact !== undefined && placed.get(placeOf(fact))?.has(student) === true;
  });
  return found ?? all[0] ?? null;
}

function describeQuestion({ about, choices, sides }: Question): Understood["questions"][number] {
  const where = sides.map((side) => side.where).find((origin) => origin?.from === "row");
  return {
    file: where?.from === "row" ? where.source : "",
    row: where?.from === "row" ? where.row : 0,
    about,
    choices: choices.map(({ label }) => label),
  };
}
