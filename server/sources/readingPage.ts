import { noSuch, type Refused } from "../refused";
import type { ReadingPage } from "@amigo/contract/readings";
import { FAULT_SENTENCE } from "@amigo/core/address/faultSentence";
import { sortWords } from "@amigo/core/mail/bounces/sortOf";
import { failingCells } from "@amigo/core/sheet/failingCells";
import { readAll } from "@amigo/core/sheet/readAll";
import type { TableInSheet } from "@amigo/core/sheet/table";
import { capital } from "@amigo/core/text/sentence";
import { say } from "@amigo/language/say";
import type { Queries } from "../db/connect";
import {
  readingLines,
  tablesOfReading,
  correctionsOf,
  readingContext,
} from "../facts/readingQueries";
import { t } from "../texts/t";
import { findWithNewest } from "./queries";
import { listFaults } from "../facts/rowQueries";
import { countQuestionsAbout } from "./readingQueries";
import { listAllTroubles } from "./answerSheetQueries";

/** Returns one reading with its plan and its faults. */
export async function readingPage(
  db: Queries,
  { id }: { id: string },
): Promise<ReadingPage | Refused> {
  const [found] = await readingLines(db, { reading: id });
  if (found === undefined) return noSuch("reading");
  const current = await findWithNewest(db, found.sourceId);
  const faults = await listFaults(db, id);
  const tables = await tablesOfReading(db, { id, plan: found.plan });
  const read = tables.ok
    ? tables.tables.map(({ sheet, table }) => ({
        name: sheet.name,
        headerRow: table.headerRow,
        totalRows: sheet.rows.length,
        aside: table.aside.filter(({ why }) => why !== "blank").map(({ row }) => row + 1),
      }))
    : [];
  const questions = await countQuestionsAbout(db, id);
  const newest = current?.newest === found.line.number;
  const failing = newest && tables.ok ? await failingIn(db, tables.tables, found) : [];
  const marked = new Set(faults.map(({ sheet, row, column }) => `${sheet} ${row} ${column}`));
  return {
    reading: found.line,
    source: { id: found.sourceId, name: current?.name ?? "" },
    sheets: found.sheets,
    plan: found.plan,
    read,
    newest,
    questions: questions?.count ?? 0,
    faults: [
      ...faults.map((fault) => ({ ...fault, sentence: headingOf(fault) })),
      ...failing.filter(({ sheet, row, column }) => !marked.has(`${sheet} ${row} ${column}`)),
    ],
  };
}

/** The heading of a fault in the reader's language; it was stored in the house's. */
function headingOf({ fault, sentence }: { fault: string; sentence: string }): string {
  return Object.hasOwn(FAULT_SENTENCE, fault)
    ? say(FAULT_SENTENCE[fault as keyof typeof FAULT_SENTENCE])
    : sentence;
}

/** The cells of a reading that name an address to which mail fails, as faults: told beside the row that it came from. */
async function failingIn(
  db: Queries,
  tables: readonly TableInSheet[],
  { sourceId }: { sourceId: string },
): Promise<ReadingPage["faults"]> {
  const troubles = new Map((await listAllTroubles(db)).map((row) => [row.address, row]));
  if (troubles.size === 0) return [];
  const { records } = readAll(
    tables,
    await correctionsOf(db, sourceId),
    await readingContext(db, sourceId),
  );
  return failingCells(tables, records, (address) => troubles.has(address)).flatMap(
    ({ sheet, row, column, written, address }) => {
      const trouble = troubles.get(address);
      if (trouble === undefined) return [];
      const stopped = trouble.state === "stopped";
      return [
        {
          sheet,
          row,
          column,
          written,
          fault: "failing",
          answer: "unusable" as const,
          proposal: null,
          sentence: stopped
            ? t("sources.mailToThisAddressComes")
            : t("sources.mailToThisAddressFails"),
          why: t("sources.sortWordsIsstoppedNothingMore", {
            sort: capital(say(sortWords(trouble.sort))),
            words: trouble.words || t("sources.noReasonWasGiven"),
            stopped: stopped,
          }),
          correction: null,
        },
      ];
    },
  );
}
