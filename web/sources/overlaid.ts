import { meaningOf } from "@amigo/core/sheet/meanings/allMeanings";
import { isUsed } from "@amigo/core/sheet/meanings/isUsed";
import type { Table, HeadingMeaning, ReadingPlan, Settled } from "@amigo/core/sheet/table";
import type { KnownWords } from "@amigo/core/sheet/columns/knownWords";
import type { DateOrder } from "@amigo/core/dates/readMoment";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { ReadingContext } from "@amigo/core/sheet/readingContext";
import type { Workbook } from "@amigo/core/sheet/sheet";

/** A table with what somebody has said of it. */
export function overlaid(table: Table, { columns, said }: InHand): Table {
  const { everyRow, headings, ...rest } = table;
  const taken = new Set([...columns.values()].map(({ meaning, slot }) => `${meaning} ${slot}`));
  const gives = (column: Table["columns"][number]): boolean =>
    isUsed(column.meaning) && taken.has(`${column.meaning} ${column.slot}`);
  return {
    ...rest,
    columns: table.columns.map((column) => {
      const foundColumn = columns.get(column.index);
      const isDate = (foundColumn?.meaning ?? column.meaning) === "answered";
      return {
        ...column,
        ...(foundColumn === undefined
          ? gives(column)
            ? { meaning: "unread" as const, slot: 0, confidence: 0.5, others: [] }
            : {}
          : {
              meaning: foundColumn.meaning,
              slot: meaningOf(foundColumn.meaning).slotted
                ? Math.max(1, foundColumn.slot)
                : foundColumn.slot,
              confidence: 1,
              others: [],
              guessed: false,
            }),
        ...(isDate && said.order !== undefined ? { order: said.order } : {}),
      };
    }),
    ...(headings === undefined || said.headings === "none"
      ? {}
      : { headings: { ...headings, meaning: said.headings ?? headings.meaning } }),
    ...(said.everyRow === undefined
      ? everyRow === undefined
        ? {}
        : { everyRow }
      : said.everyRow === ""
        ? {}
        : { everyRow: { meaning: everyRow?.meaning ?? "classes", value: said.everyRow } }),
  };
}

/** What somebody says about the sheet in hand; each part stands until it is said otherwise. */
export interface SaidOfSheet {
  columns?: readonly { column: number; meaning: MeaningId; slot: number }[];
  /** Whether the day or the month comes first in the column of dates. */
  order?: DateOrder;
  /** The row of titles, from 0; -1 for none. */
  headerRow?: number;
  /** What the lines between blocks of rows say; "none" where they say nothing. */
  headings?: HeadingMeaning | "none";
  /** The class that all rows are in; empty for none. */
  everyRow?: string;
}

/** The sheet in hand, and everything that was said of it. */
export interface InHand {
  workbook: Workbook;
  file: string;
  last: ReadingPlan | undefined;
  context: ReadingContext;
  known: KnownWords | undefined;
  /** The sheet that is looked at alone; undefined for the best one and those that are like it. */
  sheet: string | undefined;
  /** Whether somebody wants all sheets that are alike, whatever the last import read. */
  all: boolean;
  columns: ReadonlyMap<number, Settled>;
  said: Omit<SaidOfSheet, "columns">;
}
