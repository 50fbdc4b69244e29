import { message, type Message } from "@amigo/language/message";
import { fold } from "../text/fold";
import { GROUP_MEANINGS } from "./meanings/groupMeanings";
import { meaningName } from "./meanings/meaningName";
import type { MeaningId } from "./meanings/meaning";
import { isUsed } from "./meanings/isUsed";
import { manners } from "./readingPlan";
import type { TableColumn, Table, ReadingPlan } from "./table";

/** Something about the columns that is not as it was at the last reading. */
export interface PlanNote {
  kind: "moved" | "renamed" | "added" | "gone";
  sentence: Message;
}

/**
 * Takes over what was settled for a source: a column of the same title keeps the meaning that it was
 * given, unless another column has it by now.
 */
export function followPlan(table: Table, last: ReadingPlan): Table {
  const settled = settledColumns(table.columns, last);
  const columns = table.columns.map((column): TableColumn => {
    const before = settled.get(column.index);
    return before === undefined
      ? column
      : {
          ...column,
          meaning: before.meaning,
          slot: before.slot,
          confidence: 1,
          others: [],
          guessed: false,
          why: message("sheet.settledLastTime"),
          ...(before.order === undefined ? {} : { order: before.order }),
        };
  });
  const claimed = new Set(
    columns.filter(({ index, meaning }) => settled.has(index) && isUsed(meaning)).map(keyOf),
  );
  return {
    ...layoutOf(table, last),
    columns: columns.map((column) =>
      settled.has(column.index) || !claimed.has(keyOf(column))
        ? column
        : { ...column, meaning: "unread", slot: 0, confidence: 0.5 },
    ),
  };
}

/**
 * What was settled for each column, by its title; of several columns of one title the second goes with the second. Columns
 * without titles go by their places, in a sheet of the same width.
 */
function settledColumns(
  columns: readonly TableColumn[],
  last: ReadingPlan,
): Map<number, ReadingPlan["columns"][number]> {
  const byTitle = new Map<string, ReadingPlan["columns"]>();
  for (const column of last.columns)
    byTitle.set(fold(column.title), [...(byTitle.get(fold(column.title)) ?? []), column]);
  const isSameWidth = columns.length === last.columns.length;
  const settled = new Map<number, ReadingPlan["columns"][number]>();
  for (const { index, title } of columns) {
    const key = fold(title);
    const before =
      key !== "" ? byTitle.get(key)?.shift() : isSameWidth ? last.columns[index] : undefined;
    if (before !== undefined && fold(before.title) === key) settled.set(index, before);
  }
  return settled;
}

/** The layout of a table as it was agreed to at the last import. */
function layoutOf(table: Table, last: ReadingPlan): Table {
  const { everyRow, headings, ...rest } = table;
  const isOneSheet = (last.others ?? []).length === 0;
  const ofAll = isOneSheet ? last.everyRow : everyRow;
  return {
    ...rest,
    ...manners(last),
    ...(ofAll === undefined ? {} : { everyRow: ofAll }),
    ...(headings === undefined
      ? {}
      : { headings: { ...headings, meaning: last.headings?.meaning ?? headings.meaning } }),
  };
}

/** Says what changed about the columns since the last reading: moved, renamed, added or gone. */
export function comparePlans(table: Table, last: ReadingPlan): PlanNote[] {
  const notes: PlanNote[] = [];
  const now = new Map(
    table.columns.filter(({ meaning }) => isUsed(meaning)).map((column) => [keyOf(column), column]),
  );
  const order = last.columns
    .filter(({ meaning }) => isUsed(meaning))
    .map(keyOf)
    .filter((key) => now.has(key));
  const places = order.map((key) => now.get(key)?.index ?? 0);
  const kept = longestRising(places);
  last.columns.forEach((before, index) => {
    if (!isUsed(before.meaning)) return;
    const key = keyOf(before);
    const column = now.get(key);
    const label = nameOf(before);
    if (column === undefined) {
      notes.push({
        kind: "gone",
        sentence: message("sheet.columnGone", { label, before: before.title }),
      });
      return;
    }
    if (fold(column.title) !== fold(before.title))
      notes.push({
        kind: "renamed",
        sentence: message("sheet.columnRenamed", {
          label,
          title: column.title,
          before: before.title,
        }),
      });
    if (!kept.has(order.indexOf(key)) && column.index !== index)
      notes.push({
        kind: "moved",
        sentence: message("sheet.columnMoved", { label, title: column.title }),
      });
  });
  const before = new Set(last.columns.map(keyOf));
  for (const column of now.values())
    if (!before.has(keyOf(column)))
      notes.push({
        kind: "added",
        sentence: message("sheet.columnAdded", { title: column.title, label: nameOf(column) }),
      });
  return notes;
}

/** Whether a sheet is so unlike the last one of a source that it is probably another source: most of what was read is gone. */
export function isStrange(notes: readonly PlanNote[], last: ReadingPlan): boolean {
  const read = last.columns.filter(({ meaning }) => isUsed(meaning)).length;
  return notes.filter(({ kind }) => kind === "gone").length * 2 >= Math.max(read, 1);
}

/** Without these a list would lose people: who they are, where they belong, how they are reached. */
const NEEDED: ReadonlySet<MeaningId> = new Set([
  "student.number",
  "student.surname",
  "student.given",
  "student.name",
  "children",
  "person.kind",
  "family",
  "student.address",
  ...GROUP_MEANINGS,
  "guardian.name",
  "guardian.address",
]);

/** The needed columns that one plan has and a later one has not, in the words of the interface. */
export function neededGone(before: ReadingPlan, now: ReadingPlan): Message[] {
  const has = new Set(now.columns.map(keyOf));
  const isWhole = now.columns.some(({ meaning }) => meaning === "student.name");
  return before.columns
    .filter(
      (column) =>
        NEEDED.has(column.meaning) &&
        !has.has(keyOf(column)) &&
        !(isWhole && /^student\.(surname|given)$/.test(column.meaning)),
    )
    .map((column) => message("sheet.neededGone", { label: nameOf(column), title: column.title }));
}

function keyOf({ meaning, slot }: Pick<TableColumn, "meaning" | "slot">): string {
  return `${meaning} ${slot}`;
}

function nameOf(column: Pick<TableColumn, "meaning" | "slot">): Message {
  return meaningName(column, "in a sentence");
}

/** The places in a list that form its longest rising row: the columns that stayed in order. */
function longestRising(values: readonly number[]): Set<number> {
  const best = values.map(() => 1);
  const from = values.map(() => -1);
  values.forEach((value, index) => {
    for (let earlier = 0; earlier < index; earlier++) {
      if ((values[earlier] ?? 0) < value && (best[earlier] ?? 0) + 1 > (best[index] ?? 0)) {
        best[index] = (best[earlier] ?? 0) + 1;
        from[index] = earlier;
      }
    }
  });
  const kept = new Set<number>();
  for (let at = best.indexOf(Math.max(0, ...best)); at >= 0; at = from[at] ?? -1) kept.add(at);
  return kept;
}
