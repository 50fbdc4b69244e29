import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { each } from "@amigo/language/message";
import { said, say } from "@amigo/language/say";
import { ALL_MEANINGS, meaningOf } from "@amigo/core/sheet/meanings/allMeanings";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { understand, type NamedWorkbook, type Understood } from "@amigo/core/understand/understand";
import { counted } from "@amigo/core/text/sentence";
import type { SheetHints, Settled } from "@amigo/core/sheet/table";

/** What a command answers: what it prints, or what is wrong. */
export type CommandAnswer = { ok: true; text: string } | { ok: false; sentence: string };

/** What somebody says at the command line about the sheets that are read. */
export interface ReadOptions {
  json?: boolean | undefined;
  /** Each file for itself, as if the others weren't there. */
  each?: boolean | undefined;
  /** What columns hold: `student.surname,student.given,classes,-`, or `A=student.name,D=guardian.address 1`. */
  columns?: string | undefined;
  sheet?: string | undefined;
  /** The row of titles as the spreadsheet counts it; 0 where there is none. */
  header?: number | undefined;
}

/**
 * Reads files in the given order, without a database, and says what Amigo understood of them: together, or each for itself.
 *
 * @returns a summary for people; with `json` the whole as JSON (`Understanding` in `contract/understanding.ts`), with `each` a
 *   list of them, in which a file that can't be read has nothing but a question with the reason
 */
export function readCommand(paths: readonly string[], options: ReadOptions = {}): CommandAnswer {
  const settled = columnsSaid(options.columns);
  if (typeof settled === "string") return { ok: false, sentence: settled };
  const hints: SheetHints = {
    ...(options.sheet === undefined ? {} : { sheet: options.sheet }),
    ...(options.header === undefined ? {} : { headerRow: options.header - 1 }),
    settled,
  };
  if (options.each !== true) {
    const read = readTogether(paths, hints);
    if (!read.ok) return read;
    return {
      ok: true,
      text:
        options.json === true
          ? JSON.stringify(said(read.understood), null, 1)
          : summary(read.understood, read.notes),
    };
  }
  const all = paths.map((path) => ({ path, read: readTogether([path], hints) }));
  return {
    ok: true,
    text:
      options.json === true
        ? JSON.stringify(
            all.map(({ path, read }) =>
              said(read.ok ? read.understood : notUnderstood(path, read.sentence)),
            ),
            null,
            1,
          )
        : all
            .map(({ read }) => (read.ok ? summary(read.understood, read.notes) : read.sentence))
            .join("\n\n"),
  };
}

function readTogether(
  paths: readonly string[],
  hints: SheetHints,
): { ok: true; understood: Understood; notes: string[] } | { ok: false; sentence: string } {
  const books: NamedWorkbook[] = [];
  for (const path of paths) {
    let bytes: Buffer;
    try {
      bytes = readFileSync(path);
    } catch {
      return { ok: false, sentence: `${path}: there is no such file, or Amigo may not read it.` };
    }
    const read = readWorkbook(bytes);
    if (!read.ok) return { ok: false, sentence: `${path}: ${say(read.fault.sentence)}` };
    books.push({ file: basename(path), workbook: read.workbook });
  }
  const answer = understand(books, hints);
  return answer.ok
    ? { ...answer, notes: answer.notes.map(({ file, note }) => `${file}: ${say(note)}`) }
    : { ok: false, sentence: `${answer.file}: ${say(answer.fault.sentence)}` };
}

/** A file of which nothing was understood, and why. */
function notUnderstood(path: string, sentence: string): Understood {
  return {
    files: [],
    students: [],
    faults: [],
    questions: [{ file: basename(path), row: 0, about: sentence, choices: [] }],
  };
}

/** Reads what somebody says of columns; a sentence where it can't be understood. */
function columnsSaid(text: string | undefined): Map<number, Settled> | string {
  const settled = new Map<number, Settled>();
  if (text === undefined) return settled;
  for (const [at, part] of text.split(",").entries()) {
    const said = /^\s*(?:([A-Za-z]{1,2})\s*=)?\s*([a-z.-]*)\s*(\d{0,2})\s*$/.exec(part);
    const [, letters = "", name = "", slot = ""] = said ?? [];
    const column = letters === "" ? at : columnIndex(letters);
    if (said !== null && (name === "" || name === "?")) continue;
    const meaning = name === "-" ? "unread" : ALL_MEANINGS.find(({ id }) => id === name)?.id;
    if (said === null || meaning === undefined)
      return `"${part.trim()}" isn't something that a column can hold. Write the columns in their order, separated by commas, or as A=…: ${ALL_MEANINGS.map(({ id }) => id).join(", ")}; - for a column that isn't used, nothing for a column that Amigo should work out.`;
    settled.set(column, {
      meaning,
      slot: meaningOf(meaning).slotted ? Math.max(1, Number(slot)) : Number(slot),
    });
  }
  return settled;
}

function columnIndex(letters: string): number {
  return (
    [...letters.toUpperCase()].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0) - 1
  );
}

function summary(
  { files, students, faults, questions }: Understood,
  notes: readonly string[],
): string {
  const guardians = new Set(
    students.flatMap((student) =>
      student.guardians.map(
        ({ given, family, address }) => `${given} ${family} ${address ?? student.number ?? ""}`,
      ),
    ),
  );
  const lines = files.flatMap(({ file, sheet, headerRow, rows, columns }) => [
    `${file}, sheet "${sheet}": ${counted(rows, "row")}, ${headerRow === 0 ? "no titles" : `titles in row ${headerRow}`}`,
    ...columns.map(
      ({ title, meaning, confidence }) =>
        `  ${(title || "(no title)").padEnd(24)} ${meaning}${meaning === "unread" ? "" : `  ${Math.round(confidence * 100)}% sure`}`,
    ),
  ]);
  const toDecide = faults.filter(
    ({ answer, fault }) => answer !== "clean" && fault !== "none-word",
  );
  return [
    ...lines,
    "",
    ...notes,
    `${counted(students.length, "student")}, ${counted(guardians.size, "guardian")}, ${counted(faults.length, "fault")} (${toDecide.length} to look at), ${counted(questions.length, "question")}`,
    ...toDecide.map(
      ({ file, sheet, row, column, written, fault, proposal }) =>
        `  ${file}, ${sheet}, ${column}${row}: ${JSON.stringify(written)} ${fault}${proposal === null ? "" : `, read as ${proposal}`}`,
    ),
    ...questions.map(
      ({ file, row, about, choices }) =>
        `  ${file}, row ${row}: ${say(about)} ${say(each(choices, "or"))}`,
    ),
  ].join("\n");
}
