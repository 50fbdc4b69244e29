import { FAULT_SENTENCE } from "../address/faultSentence";
import { learnDomains, type KnownDomains } from "../address/learnDomains";
import { readAddress, type AddressFault, type AddressReading } from "../address/readAddress";
import { splitAddresses } from "../address/splitAddresses";
import { readMoment, type DateSetting } from "../dates/readMoment";
import { tidyLine } from "../text/tidy";
import { nameInRow } from "./countsRows";
import type { Sheet } from "./sheet";
import { splitName, wholeName, type PersonName } from "./splitName";
import type { Table, TableColumn } from "./readTable";

/** A guardian as one row names them. `column` counts from 0 and is where the address stands. */
export interface GuardianMention {
  slot: number;
  name: PersonName;
  /** The clean or probably meant address, undefined where there is none that works. */
  address: string | undefined;
  written: string;
  column: number | undefined;
  relationship: string;
}

/** What one row says about one student. `row` counts from 1, as the spreadsheet shows it. */
export interface RowRecord {
  sheet: string;
  row: number;
  number: string;
  name: PersonName;
  level: string;
  site: string;
  classes: string[];
  teams: string[];
  coach: string;
  /** The coach's address, where the sheet gives one. */
  coachAddress?: string | undefined;
  address: string | undefined;
  /** When a form was answered, as an instant in ISO 8601 and UTC; empty for a row that is no answer. */
  answered: string;
  /** The same as the sheet writes it. */
  answeredAs?: string;
  /** The season that the row names, written `2026-27`; left out where the sheet has no such column. */
  season?: string;
  guardians: GuardianMention[];
  /** What further columns say, by their titles; left out where the sheet has none. */
  details?: readonly { column: string; slot: number; value: string }[];
  /** The corrections by which its cells were read, by meaning and slot; undefined where none was. */
  corrected?: ReadonlyMap<string, string>;
}

/** One faulty cell. `row` counts from 1, `column` from 0. */
export interface CellFault {
  sheet: string;
  row: number;
  column: number;
  written: string;
  fault: AddressFault | "no-name" | "no-date";
  answer: "clean" | "probably" | "unusable";
  proposal: string | undefined;
  sentence: string;
  why: string;
}

export interface Records {
  records: RowRecord[];
  faults: CellFault[];
  domains: KnownDomains;
}

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
  const by = groupByMeaning(table.columns);
  const slots = guardianSlots(table.columns);
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
          why: `Read as ${reading.address}. Nothing to do.`,
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
        why: "Read as no address. Nothing to do.",
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
      single.answer === "unusable" && single.fault !== "none-word"
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
                why: `"${beside}" stands beside it.`,
              }
          : read;
      return { ...take(reading, piece, column), name: names[at] ?? "" };
    });
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
        sentence: "This can't be read as a date",
        why: "Where answers differ, this one counts as the oldest.",
      });
    return { answered: instant ?? LONG_AGO, answeredAs: written };
  };
  if (table.headerRow < 0) {
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
    const name = nameInRow(cells, table.columns);
    if (wholeName(name) === "") {
      const column =
        (by("student.surname") ?? by("student.name") ?? by("student.given"))?.index ?? 0;
      faults.push({
        ...place,
        column,
        written: cells[column] ?? "",
        fault: "no-name",
        answer: "unusable",
        proposal: undefined,
        sentence: "This row has no student's name",
        why: "The row is set aside until a name stands in it.",
      });
      continue;
    }
    records.push({
      ...place,
      number: text(by("student.number")),
      name,
      level: text(by("student.level")),
      site: text(by("site")),
      classes: splitChoices(cells[by("classes")?.index ?? -1] ?? ""),
      teams: splitChoices(cells[by("teams")?.index ?? -1] ?? ""),
      coach: text(by("coach")),
      ...(by("coach.address") === undefined
        ? {}
        : { coachAddress: optional(by("coach.address"), readOne) }),
      address: optional(by("student.address"), readOne),
      ...readAnswered(by("answered")),
      ...(by("season") === undefined ? {} : { season: seasonWritten(text(by("season"))) }),
      guardians: readGuardians(slots, text, readOne, name.family),
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
    });
  }
  return { records, faults, domains };
}

/** Reads the addresses in a row's cell of one column, each with the name that stands beside it there. */
type ReadCell = (
  column: TableColumn,
) => { address: string | undefined; written: string; name: string }[];

type ByMeaning = (meaning: TableColumn["meaning"]) => TableColumn | undefined;

function groupByMeaning(columns: readonly TableColumn[]): ByMeaning {
  const first = new Map<TableColumn["meaning"], TableColumn>();
  for (const column of columns) if (!first.has(column.meaning)) first.set(column.meaning, column);
  return (meaning) => first.get(meaning);
}

function learnTogether(sheet: Sheet, table: Table, known: KnownDomains): KnownDomains {
  const columns = table.columns.filter(
    ({ meaning }) => meaning === "guardian.address" || meaning === "student.address",
  );
  const together = new Map(known);
  const own = learnDomains(
    table.rows.flatMap((row) => columns.map(({ index }) => sheet.rows[row]?.[index] ?? "")),
  );
  for (const [domain, uses] of own) together.set(domain, Math.max(uses, together.get(domain) ?? 0));
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

/** The name of a person that stands beside an address; a word such as "mother" or "(work)" is none. */
function personIn(beside: string): string {
  return /\p{Lu}\p{L}+[ ,]+\p{Lu}/u.test(beside) ? beside : "";
}

function optional(
  column: TableColumn | undefined,
  readOne: (column: TableColumn) => { address: string | undefined }[],
): string | undefined {
  return column === undefined ? undefined : readOne(column)[0]?.address;
}

/** The columns of one guardian. */
interface GuardianSlot {
  slot: number;
  name: TableColumn | undefined;
  given: TableColumn | undefined;
  surname: TableColumn | undefined;
  address: TableColumn | undefined;
  relationship: TableColumn | undefined;
}

function guardianSlots(columns: readonly TableColumn[]): GuardianSlot[] {
  const slots = [
    ...new Set(
      columns
        .filter((column) => column.slot > 0 && column.meaning !== "detail")
        .map((column) => column.slot),
    ),
  ].sort((a, b) => a - b);
  return slots.map((slot) => {
    const at: ByMeaning = (meaning) =>
      columns.find((column) => column.slot === slot && column.meaning === meaning);
    return {
      slot,
      name: at("guardian.name"),
      given: at("guardian.given"),
      surname: at("guardian.surname"),
      address: at("guardian.address"),
      relationship: at("guardian.relationship"),
    };
  });
}

function readGuardians(
  slots: readonly GuardianSlot[],
  text: (column: TableColumn | undefined) => string,
  readOne: ReadCell,
  studentFamily: string,
): GuardianMention[] {
  const mentions: GuardianMention[] = [];
  for (const { slot, address: addressColumn, ...own } of slots) {
    const parts: PersonName = { given: text(own.given), family: text(own.surname) };
    const name = wholeName(parts) !== "" ? parts : splitName(text(own.name), [studentFamily]);
    const relationship = text(own.relationship);
    const found =
      addressColumn === undefined
        ? [{ address: undefined, written: "", name: "" }]
        : readOne(addressColumn);
    found.forEach(({ address, written, name: beside }, index) => {
      const own =
        index === 0 && wholeName(name) !== "" ? name : splitName(personIn(beside), [studentFamily]);
      if (wholeName(own) === "" && address === undefined) return;
      mentions.push({
        slot: slot + index * 10,
        name: own,
        address,
        written,
        column: addressColumn?.index,
        relationship,
      });
    });
  }
  return mentions;
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
