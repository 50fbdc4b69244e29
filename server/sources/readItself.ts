import { refused, Refused } from "../refused";
import { sentences } from "@amigo/language/message";
import { comparePlans, isStrange } from "@amigo/core/sheet/comparePlans";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import { fold } from "@amigo/core/text/fold";
import { readAgain } from "@amigo/core/sheet/readAgain";
import { planOf } from "@amigo/core/sheet/readingPlan";
import type { Database } from "../db/connect";
import type { OnProgress } from "../change/openRound";
import { knownWords } from "./knownWords";
import { fileRefused, openBook } from "../sandbox/openBook";
import { readBook, type FileRead, type FileToRead } from "./readFile";
import { t } from "../texts/t";
import type { Table, ReadingPlan } from "@amigo/core/sheet/table";
import { findWithPlan } from "./queries";

/** A column that has another title now, and of whose meaning Amigo is less sure than this, is not read by itself. */
const SURE = 0.7;

/**
 * Reads a file into a source without a person, by the plan of its last reading: columns that have moved or been
 * renamed are known again by title and content; one that can't be told for sure is left unread, and a guard says so.
 *
 * Refused where the sheet is so unlike the last one that a person must look at it first.
 */
export async function readItself(
  db: Database,
  {
    source: id,
    file,
    byItself,
  }: { source: string; file: Omit<FileToRead, "plan">; byItself: boolean },
  tell: OnProgress,
): Promise<FileRead | Refused> {
  const current = await findWithPlan(db, id);
  if (current === undefined || current.plan === null)
    return refused(422, "source/never-read", t("sources.thisSourceWasNeverRead"));
  const last = current.plan;
  tell(t("sources.readingTheFile"), 0.02);
  const workbook = await openBook(file.bytes);
  if (workbook instanceof Refused) return workbook;
  const found = readAgain(workbook, last, { file: file.name, known: await knownWords(db) });
  if (!found.ok) return fileRefused(found.fault);
  const { table, others } = found;
  const notes = comparePlans(table, last);
  if (isStrange(notes, last))
    return refused(
      422,
      "reading/strange",
      t("sources.theColumnsOfAreNot", {
        file: file.name,
        source: current.name,
        notes: sentences(...notes.slice(0, 3).map(({ sentence }) => sentence)),
      }),
    );
  const plan = planFor(table, others, last);
  return readBook(
    db,
    { actor: { id: null, name: "Amigo" }, into: { id }, file: { ...file, plan }, byItself },
    workbook,
    tell,
  );
}

function planFor(table: Table, others: readonly string[], last: ReadingPlan): ReadingPlan {
  const known = new Set(last.columns.map(({ title }) => fold(title)));
  const isNew = (title: string, meaning: MeaningId): boolean =>
    meaning === "detail" && !known.has(fold(title));
  return {
    ...planOf(table, others),
    columns: table.columns.map(({ title, meaning, slot, confidence, order }) =>
      // What nobody has settled is left alone; what may be personal is never stored.
      meaning !== "private" && (confidence < SURE || isNew(title, meaning))
        ? { title, meaning: "unread", slot: 0 }
        : {
            title,
            meaning,
            slot,
            ...(order === undefined || order === "unsure" ? {} : { order }),
          },
    ),
  };
}
