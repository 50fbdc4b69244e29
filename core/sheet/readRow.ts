import { message } from "@amigo/language/message";
import type { KnownDomains } from "../address/learnDomains";
import type { DateSetting } from "../dates/readMoment";
import { tidyLine } from "../text/tidy";
import { readOneAddress } from "./addressCell";
import { answeredIn, dateSetting } from "./answeredIn";
import { isMark, splitChoices } from "./cellChoices";
import { columnsOfChild } from "./childColumns";
import { headingFinder } from "./headingFinder";
import type { MeaningId } from "./meanings/meaning";
import { childrenOf, columnFor, isTurkish } from "./nameInRow";
import { guardianSlots, readGuardians, type GuardianSlot } from "./readGuardians";
import type { ReadingContext } from "./readingContext";
import type { RowInHand } from "./rowInHand";
import type { GuardianMention, RowRecord } from "./rowRecord";
import { seasonWritten } from "./seasonWritten";
import type { NameManner } from "./splitName";
import type { Table, TableColumn } from "./table";

type ChildColumns = ReturnType<typeof columnsOfChild>;
type Said = Partial<Record<MeaningId, string>>;

/** What reading a row needs of its table: which column holds what, found once for all rows. */
export interface TableInHand {
  by: (meaning: MeaningId) => TableColumn | undefined;
  slots: readonly GuardianSlot[];
  children: readonly ChildColumns[];
  /** Columns of which each is a class or team, with a mark for who is in it. */
  marks: readonly TableColumn[];
  details: readonly TableColumn[];
  /** Returns what the heading above a row, or the whole sheet, says of it. */
  headingOf: (row: number) => Said;
  domains: KnownDomains;
  manners: NameManner;
  dates: DateSetting;
  /** Whether a class of one letter is named with the level before it. */
  joinLevel: boolean;
}

/** Finds which column of a table holds what. */
export function takeTable(
  table: Table,
  domains: KnownDomains,
  context: ReadingContext,
): TableInHand {
  const { columns } = table;
  const by = (meaning: MeaningId): TableColumn | undefined => columnFor(columns, meaning);
  return {
    by,
    slots: guardianSlots(columns),
    children: childrenOf(columns).map((child) => columnsOfChild(table, child)),
    marks: columns.filter(({ meaning }) => meaning === "classes.mark" || meaning === "teams.mark"),
    details: columns.filter(({ meaning }) => meaning === "detail"),
    headingOf: headingFinder(table),
    domains,
    manners: { twoSurnames: table.twoSurnames, isTurkish: isTurkish(columns) },
    dates: dateSetting(by("answered"), context),
    joinLevel: table.joinLevel === true,
  };
}

/** Reads one row: a record for each of its students, or a fault where it names none. */
export function readRow(row: RowInHand, table: TableInHand): RowRecord[] {
  const { by, domains, details } = table;
  const named = table.children.flatMap((columns) =>
    columns.children(row.cells).map((child) => ({ columns, ...child })),
  );
  if (named.length === 0) {
    tellNoName(row, by);
    return [];
  }
  const guardians = readGuardians(
    row,
    table,
    named.map(({ name }) => name.family),
  );
  const shared = {
    coach: row.text(by("coach")),
    guardians,
    ...(by("coach.address") === undefined
      ? {}
      : { coachAddress: readOneAddress(row, by("coach.address"), domains) }),
    ...answeredIn(row, by("answered"), table.dates),
    ...(by("season") === undefined ? {} : { season: seasonWritten(row.text(by("season"))) }),
    ...(details.length === 0 ? {} : { details: detailsIn(row, details) }),
  };
  const said = table.headingOf(row.place.row - 1);
  // A column for all children of the row is read once, so that its faults are told once.
  const addresses = new Map<TableColumn | undefined, string | undefined>();
  for (const { columns } of named)
    if (!addresses.has(columns.address))
      addresses.set(columns.address, readOneAddress(row, columns.address, domains));
  const family = by("children") === undefined ? "" : familyOf(guardians);
  return named.map(({ columns, name, group }): RowRecord => ({
    ...row.place,
    ...shared,
    number: row.text(columns.number),
    name: name.family === "" ? { given: name.given, family } : name,
    level: said["student.level"] ?? row.text(columns.level),
    site: said.site ?? row.text(columns.site),
    classes: withGroup(groupsIn(row, table, columns, "classes", said), group),
    teams: groupsIn(row, table, columns, "teams", said),
    address: addresses.get(columns.address),
    ...(columns.slots === undefined ? {} : { slots: columns.slots }),
  }));
}

function withGroup(classes: readonly string[], group: string): string[] {
  return group === "" || classes.includes(group) ? [...classes] : [...classes, group];
}

/** The surname that all guardians of a row share; empty where there is none, or more than one. */
function familyOf(guardians: readonly GuardianMention[]): string {
  const families = new Set(guardians.map(({ name }) => name.family).filter((name) => name !== ""));
  return families.size === 1 ? ([...families][0] ?? "") : "";
}

function tellNoName(row: RowInHand, by: TableInHand["by"]): void {
  const column =
    by("student.surname") ?? by("student.name") ?? by("student.given") ?? by("children");
  row.tell({
    column: column?.index ?? 0,
    written: row.cells[column?.index ?? 0] ?? "",
    fault: "no-name",
    answer: "unusable",
    proposal: undefined,
    sentence: message("sheet.thisRowHasNoStudents"),
    why: message("sheet.theRowIsSetAside"),
  });
}

function detailsIn(
  row: RowInHand,
  columns: readonly TableColumn[],
): NonNullable<RowRecord["details"]> {
  return columns
    .map((column) => ({
      column: tidyLine(column.title),
      slot: column.slot,
      value: row.text(column),
    }))
    .filter(({ value }) => value !== "");
}

/** Returns the classes or teams of a student: those in the cell, those with a mark, and that of the heading above. */
function groupsIn(
  row: RowInHand,
  { marks, joinLevel }: TableInHand,
  columns: ChildColumns,
  meaning: "classes" | "teams",
  said: Said,
): string[] {
  const written = splitChoices(row.raw(columns[meaning])).map((choice) =>
    meaning === "classes" && joinLevel && choice.length === 1
      ? `${row.text(columns.level)}${choice}`
      : choice,
  );
  const heading = said[meaning];
  if (marks.length === 0 && heading === undefined) return written;
  const marked = marks
    .filter((mark) => mark.meaning === `${meaning}.mark` && isMark(row.text(mark)))
    .map(({ title }) => tidyLine(title));
  return [...new Set([...written, ...marked, ...(heading === undefined ? [] : [heading])])];
}
