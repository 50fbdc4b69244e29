import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { understand, type NamedWorkbook, type Understood } from "@amigo/core/understand/understand";
import { counted } from "@amigo/core/text/sentence";

/** What a command answers: what it prints, or what is wrong. */
export type CommandAnswer = { ok: true; text: string } | { ok: false; sentence: string };

/**
 * Reads files in the given order, without a database, and says what Amigo understood of them.
 *
 * @param json the whole of it as JSON (`Understanding` in `contract/understanding.ts`), else a summary for people
 */
export function readCommand(paths: readonly string[], json: boolean): CommandAnswer {
  const books: NamedWorkbook[] = [];
  for (const path of paths) {
    let bytes: Buffer;
    try {
      bytes = readFileSync(path);
    } catch {
      return { ok: false, sentence: `${path}: there is no such file, or it may not be read.` };
    }
    const read = readWorkbook(bytes);
    if (!read.ok) return { ok: false, sentence: `${path}: ${read.fault.sentence}` };
    books.push({ file: basename(path), workbook: read.workbook });
  }
  const answer = understand(books);
  if (!answer.ok) return { ok: false, sentence: `${answer.file}: ${answer.fault.sentence}` };
  return {
    ok: true,
    text: json
      ? JSON.stringify(answer.understood, null, 1)
      : summary(answer.understood, answer.notes),
  };
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
      ({ file, row, about, choices }) => `  ${file}, row ${row}: ${about} ${choices.join(" or ")}`,
    ),
  ].join("\n");
}
