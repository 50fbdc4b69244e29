import { message } from "@amigo/language/message";
import { readMoment, type DateSetting } from "../dates/readMoment";
import type { ReadingContext } from "./readingContext";
import type { RowInHand } from "./rowInHand";
import type { RowRecord } from "./rowRecord";
import type { TableColumn } from "./table";

/** An answer whose date can't be read counts as the oldest of all. */
const LONG_AGO = "0000-01-01T00:00:00.000Z";

/** Returns how the dates of a column are written. */
export function dateSetting(column: TableColumn | undefined, context: ReadingContext): DateSetting {
  return {
    order: column?.order === "month first" ? "month first" : "day first",
    timeZone: context.timeZone,
    firstYear: Number(/^\d{4}/.exec(context.season)?.[0] ?? 2000),
  };
}

/** Returns when a row was answered, and as it is written there; empty for a row that is no answer. */
export function answeredIn(
  row: RowInHand,
  column: TableColumn | undefined,
  dates: DateSetting,
): Pick<RowRecord, "answered" | "answeredAs"> {
  const written = row.text(column);
  if (column === undefined || written === "") return { answered: "" };
  const instant = readMoment(written, dates);
  if (instant === undefined)
    row.tell({
      column: column.index,
      written,
      fault: "no-date",
      answer: "unusable",
      proposal: undefined,
      sentence: message("sheet.thisCantBeReadAs"),
      why: message("sheet.whereAnswersDifferThisOne"),
    });
  return { answered: instant ?? LONG_AGO, answeredAs: written };
}
