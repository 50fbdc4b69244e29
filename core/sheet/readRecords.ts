import { message } from "@amigo/language/message";
import { FAULT_SENTENCE } from "../address/faultSentence";
import { learnDomains, type KnownDomains } from "../address/learnDomains";
import { readAddress } from "../address/readAddress";
import { splitAddresses } from "../address/splitAddresses";
import { readMoment, type DateSetting } from "../dates/readMoment";
import { tidyLine } from "../text/tidy";
import { childrenOf, columnFor, isTurkish, nameReader } from "./nameInRow";
import type { MeaningId } from "./meanings/meaning";
import { guardianSlots, readGuardians, type ReadCell } from "./readGuardians";
import { plainClassName } from "./shapes/className";
import type { Sheet } from "./sheet";
import { wholeName, type NameManner } from "./splitName";
import type { TableColumn, Table } from "./table";
import type { RowRecord, CellFault, Records } from "./rowRecord";
import type { AddressReading } from "../address/addressReading";

/** What a sheet doesn't say itself. */
export interface ReadingContext {
  /** The house's time zone, by whose clocks answers are dated. */
  timeZone: string;
  /** The house's current season, such as `2026-27`; empty where there is none. */
  season: string;
}

export const NO_CONTEXT: ReadingContext = { timeZone: "UTC", season: "" };

/** An answer whose date can't be read counts as the oldest of all. */
const LONG_AGO = "0000-01-01T00:00:00.000Z";

/**
 * Reads every data row of a table by its column meanings.
 *
 * @param known domains that the house already uses; those of the sheet itself are learnt on top
 */
export function readRecords(
  sheet: Sheet,
  table: Table,
  known: KnownDomains = new Map(),
  context: ReadingContext = NO_CONTEXT,
): Records {
  const by: ByMeaning = (meaning) => columnFor(table.columns, meaning);
  const slots = guardianSlots(table.columns);
  const children = childrenOf(table.columns).map((child) => columnsOfChild(table, child));
  const marks = table.columns.filter(
    ({ meaning }) => meaning === "classes.mark" || meaning === "teams.mark",
  );
  const headingOf = headingFinder(table);
  const details = table.columns.filter(({ meaning }) => meaning === "detail");
  const domains = learnTogether(sheet, table, known);
  const faults: CellFault[] = [];
  const records: RowRecord[] = [];
  /** The row in hand, which the readers below look at. */
  let cells: readonly string[] = [];
  let place = { sheet: table.sheet, row: 0 };
  const text = (column: TableColumn | undefined): string =>
    column === undefined ? "" : tidyLine(cells[column.index] ?? "");
  const take = (
    reading: AddressReading,
    written: string,
    column: TableColumn,
  ): { address: string | undefined; written: string } => {
    if (reading.answer === "clean") {
      const tidied = reading.tidied[0];
      if (tidied !== undefined)
        faults.push({
          ...place,
          column: column.index,
          written,
          fault: tidied,
          answer: "clean",
          proposal: reading.address,
          sentence: FAULT_SENTENCE[tidied],
          why: message("sheet.readAsNothingToDo", { address: reading.address }),
        });
      return { address: reading.address, written };
    }
    const proposal = reading.answer === "probably" ? reading.address : undefined;
    if (reading.fault === "none-word") {
      faults.push({
        ...place,
        column: column.index,
        written,
        fault: "none-word",
        answer: "clean",
        proposal: undefined,
        sentence: FAULT_SENTENCE["none-word"],
        why: message("sheet.readAsNoAddressNothing"),
      });
      return { address: undefined, written };
    }
    faults.push({
      ...place,
      column: column.index,
      written,
      fault: reading.fault,
      answer: reading.answer,
      proposal,
      sentence: FAULT_SENTENCE[reading.fault],
      why: reading.why,
    });
    return { address: proposal, written };
  };
  const readOne: ReadCell = (column) => {
    const written = cells[column.index] ?? "";
    if (tidyLine(written) === "") return [{ address: undefined, written, name: "" }];
    const single = readAddress(written, domains);
    const { pieces, names, leftOver } =
      (single.answer === "unusable" && single.fault !== "none-word") ||
      (single.answer === "clean" && single.tidied.includes("angle-name"))
        ? splitAddresses(written)
        : { pieces: [], names: [], leftOver: [] };
    if (pieces.length === 0) return [{ ...take(single, written, column), name: "" }];
    return pieces.map((piece, at) => {
      const read = readAddress(piece, domains);
      const beside = leftOver.join(", ");
      const reading: AddressReading =
        read.answer === "clean" && pieces.length === 1
          ? beside === ""
            ? { ...read, tidied: [...read.tidied, "angle-name"] }
            : {
                answer: "probably",
                address: read.address,
                fault: "words-beside",
                why: message("sheet.standsBesideIt", { beside }),
              }
          : read;
      return { ...take(reading, piece, column), name: names[at] ?? "" };
    });
  };
  const manners: NameManner = {
    twoSurnames: table.twoSurnames,
    isTurkish: isTurkish(table.columns),
  };
  const dates = dateSetting(by("answered"), context);
  const readAnswered = (
    column: TableColumn | undefined,
  ): Pick<RowRecord, "answered" | "answeredAs"> => {
    const written = text(column);
    if (column === undefined || written === "") return { answered: "" };
    const instant = readMoment(written, dates);
    if (instant === undefined)
      faults.push({
        ...place,
        column: column.index,
        written,
        fault: "no-date",
        answer: "unusable",
        proposal: undefined,
        sentence: message("sheet.thisCantBeReadAs"),
        why: message("sheet.whereAnswersDifferThisOne"),
      });
    return { answered: instant ?? LONG_AGO, answeredAs: written };
  };
  if (isNameless(table)) {
    for (const row of table.rows) {
      cells = sheet.rows[row] ?? [];
      place = { sheet: table.sheet, row: row + 1 };
      for (const column of table.columns) readOne(column);
    }
    return { records, faults, domains };
  }
  for (const row of table.rows) {
    cells = sheet.rows[row] ?? [];
    place = { sheet: table.sheet, row: row + 1 };
    const named = children
      .map((eachChild) => ({ own: eachChild, name: eachChild.name(cells) }))
      .filter(({ name }) => wholeName(name) !== "");
    if (named.length === 0) {
      const column =
        (by("student.surname") ?? by("student.name") ?? by("student.given"))?.index ?? 0;
      faults.push({
        ...place,
        column,
        written: cells[column] ?? "",
        fault: "no-name",
        answer: "unusable",
        proposal: undefined,
        sentence: message("sheet.thisRowHasNoStudents"),
        why: message("sheet.theRowIsSetAside"),
      });
      continue;
    }
    const guardians = readGuardians(
      slots,
      {
        text,
        raw: (column) => cells[column?.index ?? -1] ?? "",
        readOne,
        manners,
        tell: (item) => faults.push({ ...place, ...item }),
      },
      named.map(({ name }) => name.family),
    );
    const coachAddress =
      by("coach.address") === undefined
        ? {}
        : { coachAddress: optional(by("coach.address"), readOne) };
    const answered = readAnswered(by("answered"));
    const said = headingOf(row);
    // A column for all children of the row is read once, so that its faults are told once.
    const addresses = new Map<TableColumn | undefined, string | undefined>();
    for (const { own: item } of named)
      if (!addresses.has(item.address))
        addresses.set(item.address, optional(item.address, readOne));
    for (const { own: item, name } of named) {
      const choices = (meaning: "classes" | "teams"): string[] => {
        const written = splitChoices(cells[item[meaning]?.index ?? -1] ?? "").map((choice) =>
          meaning === "classes" && table.joinLevel === true && choice.length === 1
            ? `${text(item.level)}${choice}`
            : choice,
        );
        const heading = said[meaning];
        if (marks.length === 0 && heading === undefined) return written;
        return [
          ...new Set([
            ...written,
            ...marks
              .filter((mark) => mark.meaning === `${meaning}.mark` && isMark(text(mark)))
              .map(({ title }) => tidyLine(title)),
            ...(heading === undefined ? [] : [heading]),
          ]),
        ];
      };
      records.push({
        ...place,
        number: text(item.number),
        name,
        level: said["student.level"] ?? text(item.level),
        site: said.site ?? text(item.site),
        classes: choices("classes"),
        teams: choices("teams"),
        coach: text(by("coach")),
        ...coachAddress,
        address: addresses.get(item.address),
        ...answered,
        ...(by("season") === undefined ? {} : { season: seasonWritten(text(by("season"))) }),
        guardians,
        ...(details.length === 0
          ? {}
          : {
              details: details
                .map((column) => ({
                  column: tidyLine(column.title),
                  slot: column.slot,
                  value: text(column),
                }))
                .filter(({ value }) => value !== ""),
            }),
        ...(item.slots === undefined ? {} : { slots: item.slots }),
      });
    }
  }
  return { records, faults, domains };
}

type ByMeaning = (meaning: MeaningId) => TableColumn | undefined;

/** A sheet of addresses alone: it names nobody. */
function isNameless({ columns, headerRow }: Table): boolean {
  return (
    headerRow < 0 &&
    !columns.some(
      ({ meaning }) =>
        meaning === "student.name" || meaning === "student.given" || meaning === "student.surname",
    )
  );
}

/** What the heading above a row, and the sheet as a whole, say of it. */
function headingFinder({
  headings,
  everyRow,
}: Table): (row: number) => Partial<Record<MeaningId, string>> {
  const fixed: Partial<Record<MeaningId, string>> =
    everyRow === undefined ? {} : { [everyRow.meaning]: everyRow.value };
  if (headings === undefined) return () => fixed;
  const lines = [...headings.lines].sort((a, b) => a.row - b.row);
  return (row) => {
    // The last line above the row, found by halves.
    let low = 0;
    let high = lines.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((lines[middle]?.row ?? row) < row) low = middle + 1;
      else high = middle;
    }
    const text = lines[low - 1]?.text;
    return text === undefined ? fixed : { ...fixed, [headings.meaning]: plainClassName(text) };
  };
}

function isMark(text: string): boolean {
  return text !== "" && !/^(?:0|-|–|no|n|nein|non|false|nej|nie|ne|ei|hayır)$/i.test(text);
}

/** The columns that are about one child of a row. */
function columnsOfChild(table: Table, child: number) {
  const at = (meaning: MeaningId): TableColumn | undefined =>
    columnFor(table.columns, meaning, child);
  return {
    name: nameReader(table, child),
    number: at("student.number"),
    level: at("student.level"),
    site: at("site"),
    address: at("student.address"),
    classes: at("classes"),
    teams: at("teams"),
    slots: child === 0 ? undefined : slotsOfChild(table.columns, child),
  };
}

function slotsOfChild(columns: readonly TableColumn[], child: number): Map<MeaningId, number> {
  return new Map(
    columns.flatMap((column) =>
      column.slot === child && !column.meaning.startsWith("guardian.")
        ? [[column.meaning, child] as const]
        : [],
    ),
  );
}

function learnTogether(sheet: Sheet, table: Table, known: KnownDomains): KnownDomains {
  const columns = table.columns.filter(
    ({ meaning }) => meaning === "guardian.address" || meaning === "student.address",
  );
  const together = new Map(known);
  const domains = learnDomains(
    table.rows.flatMap((row) => columns.map(({ index }) => sheet.rows[row]?.[index] ?? "")),
  );
  for (const [domain, uses] of domains)
    together.set(domain, Math.max(uses, together.get(domain) ?? 0));
  return together;
}

function dateSetting(column: TableColumn | undefined, context: ReadingContext): DateSetting {
  return {
    order: column?.order === "month first" ? "month first" : "day first",
    timeZone: context.timeZone,
    firstYear: Number(/^\d{4}/.exec(context.season)?.[0] ?? 2000),
  };
}

/** A season as a cell writes it, in the house's way: `2026/2027` is `2026-27`. Anything else stays as it is. */
export function seasonWritten(cell: string): string {
  const years = /^(\d{4}) ?[-/–] ?(?:\d\d)?(\d\d)$/.exec(cell);
  return years === null ? cell : `${years[1]}-${years[2]}`;
}

function optional(
  column: TableColumn | undefined,
  readOne: (column: TableColumn) => { address: string | undefined }[],
): string | undefined {
  return column === undefined ? undefined : readOne(column)[0]?.address;
}

/** Takes the choices in one cell apart: by semicolon, bar, line break, or comma. */
export function splitChoices(cell: string): string[] {
  return [
    ...new Set(
      cell
        .split(/[;|\n\r,]+/)
        .map(tidyLine)
        .filter((choice) => choice !== ""),
    ),
  ];
}
