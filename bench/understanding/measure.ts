import { understand } from "@amigo/core/understand/understand";
import { makeSheet, SHAPE_NAMES, type MadeSheet } from "./made";
import { OFFICES } from "./words";

/** How a made-up sheet was understood. */
export interface Outcome {
  sheet: MadeSheet;
  right: boolean;
  /** Wrong without a question about it. */
  silent: boolean;
  why: string;
  /** What each column was taken for, how surely, and whether it truly holds that; undefined where nobody wrote it down. */
  columns: { title: string; confidence: number; meaning: string; right: boolean | undefined }[];
}

/** Whether a column is taken for what it holds. What isn't used may be kept or not; a class may be a team. */
function isRight(meaning: string, truth: string | undefined): boolean | undefined {
  if (truth === undefined) return undefined;
  const plain = meaning.replace(/ \d+$/, "");
  const kind = (of: string): string =>
    ["unread", "private", "detail"].includes(of) ? "unread" : of === "teams" ? "classes" : of;
  // A number that only counts, or that two children have, is rightly left out.
  return kind(plain) === kind(truth) || (truth === "student.number" && plain === "unread");
}

const key = (given: string, family: string): string =>
  `${given}|${family}`.toLowerCase().replace(/\s+/g, " ");

/** Reads a made-up sheet and compares what was understood with the truth. */
export function judge(sheet: MadeSheet, { groups = true } = {}): Outcome {
  const answer = understand([{ file: sheet.file, workbook: sheet.workbook }]);
  if (!answer.ok)
    return { sheet, right: false, silent: false, why: answer.fault.code, columns: [] };
  const { students, questions, files } = answer.understood;
  const columns = (files[0]?.columns ?? []).map(({ title, confidence, meaning }, at) => ({
    title,
    confidence,
    meaning,
    right: isRight(meaning, sheet.columns?.[at]),
  }));
  const found = new Map(students.map((student) => [key(student.given, student.family), student]));
  const wrong = (why: string): Outcome => ({
    sheet,
    right: false,
    silent: questions.length === 0,
    why,
    columns,
  });
  if (students.length !== sheet.truth.length)
    return wrong(
      `${students.length} students for ${sheet.truth.length}: ${students
        .slice(0, 2)
        .map((eachStudent) => key(eachStudent.given, eachStudent.family))
        .join(" ")}`,
    );
  for (const student of sheet.truth) {
    const known = found.get(key(student.given, student.family));
    if (known === undefined)
      return wrong(
        `no ${key(student.given, student.family)}; ${students
          .slice(0, 2)
          .map((one) => key(one.given, one.family))
          .join(" ")}`,
      );
    const addresses = known.guardians
      .flatMap(({ address }) => (address === null ? [] : [address]))
      .sort();
    if (addresses.join() !== [...student.addresses].sort().join())
      return wrong(`addresses ${addresses.join()} for ${student.addresses.join()}`);
    const of = [...known.classes, ...known.teams].sort().join();
    if (groups && of !== [...student.groups].sort().join())
      return wrong(`groups ${of} for ${student.groups.join()}`);
  }
  return { sheet, right: true, silent: false, why: "", columns };
}

/** Every sheet of the measurement. */
export function allSheets(each: number): MadeSheet[] {
  return OFFICES.flatMap((words, language) =>
    SHAPE_NAMES.flatMap((shape, index) =>
      Array.from({ length: each }, (_, at) =>
        makeSheet(words, shape, language * 10007 + index * 101 + at * 17 + 1),
      ),
    ),
  );
}

/** The same sheet with one title, or all, replaced. */
export function withTitles(
  sheet: MadeSheet,
  replace: (title: string, column: number) => string,
): MadeSheet {
  return {
    ...sheet,
    workbook: {
      ...sheet.workbook,
      sheets: sheet.workbook.sheets.map((eachSheet) => ({
        ...eachSheet,
        rows: eachSheet.rows.map((row, at) =>
          at === headerRowOf(sheet)
            ? row.map((title, column) => (title === "" ? "" : replace(title, column)))
            : row,
        ),
      })),
    },
  };
}

/** The titles of a made-up sheet. */
export function titlesOf(sheet: MadeSheet): string[] {
  return sheet.workbook.sheets[0]?.rows[headerRowOf(sheet)] ?? [];
}

function headerRowOf({ shape }: MadeSheet): number {
  return shape === "under a title" ? 3 : shape === "two-row header" ? 1 : 0;
}

/** Shares by a key of the sheets, as lines to print. */
export function sharesBy(outcomes: readonly Outcome[], of: (sheet: MadeSheet) => string): string[] {
  const counts = new Map<string, { right: number; all: number }>();
  for (const { sheet, right } of outcomes) {
    const found = counts.get(of(sheet)) ?? { right: 0, all: 0 };
    found.all++;
    if (right) found.right++;
    counts.set(of(sheet), found);
  }
  return [...counts].map(
    ([name, { right, all }]) =>
      `  ${name.padEnd(28)} ${String(right).padStart(4)} of ${String(all).padStart(4)}  ${percent(right / all)}`,
  );
}

export function percent(share: number): string {
  return `${(share * 100).toFixed(1)}%`;
}

/** How many columns that were said to be so sure are right: a line for each step of sureness. */
export function reliability(outcomes: readonly Outcome[]): string[] {
  const steps = [0, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 0.99];
  const columns = outcomes
    .flatMap((outcome) => outcome.columns)
    .filter(({ right }) => right !== undefined);
  return steps.map((from, at) => {
    const to = steps[at + 1] ?? 1.01;
    const inBand = columns.filter(({ confidence }) => confidence >= from && confidence < to);
    const right = inBand.filter((column) => column.right === true).length;
    return `  said ${percent(from).padStart(6)} to ${percent(Math.min(1, to)).padStart(6)}   ${String(inBand.length).padStart(6)} columns   right ${inBand.length === 0 ? "-" : percent(right / inBand.length)}`;
  });
}

/** Of the columns said to be at least so sure, the share that is right. */
export function rightAmongSure(outcomes: readonly Outcome[], least: number): number {
  const found = outcomes
    .flatMap(({ columns }) => columns)
    .filter(({ right, confidence }) => right !== undefined && confidence >= least);
  return found.filter(({ right }) => right === true).length / Math.max(1, found.length);
}
