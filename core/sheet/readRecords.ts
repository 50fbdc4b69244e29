import { FAULT_SENTENCE } from "../address/faultSentence";
import { learnDomains, type KnownDomains } from "../address/learnDomains";
import { readAddress, type AddressFault, type AddressReading } from "../address/readAddress";
import { splitAddresses } from "../address/splitAddresses";
import { tidyLine } from "../text/tidy";
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
  address: string | undefined;
  answered: string;
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
  fault: AddressFault | "no-name";
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

/**
 * Reads every data row of a table by its column meanings.
 *
 * @param known domains that the house already uses; those of the sheet itself are learnt on top
 */
export function readRecords(sheet: Sheet, table: Table, known: KnownDomains = new Map()): Records {
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
  const readOne = (column: TableColumn): { address: string | undefined; written: string }[] => {
    const written = cells[column.index] ?? "";
    if (tidyLine(written) === "") return [{ address: undefined, written }];
    const single = readAddress(written, domains);
    const pieces = single.answer === "unusable" ? splitAddresses(written).pieces : [];
    return pieces.length > 1
      ? pieces.map((piece) => take(readAddress(piece, domains), piece, column))
      : [take(single, written, column)];
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
    const name = studentName(by, text);
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
      address: optional(by("student.address"), readOne),
      answered: text(by("answered")),
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

function studentName(by: ByMeaning, text: (column: TableColumn | undefined) => string): PersonName {
  const given = text(by("student.given"));
  const family = text(by("student.surname"));
  return given !== "" || family !== "" ? { given, family } : splitName(text(by("student.name")));
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
  readOne: (column: TableColumn) => { address: string | undefined; written: string }[],
  studentFamily: string,
): GuardianMention[] {
  const mentions: GuardianMention[] = [];
  for (const { slot, address: addressColumn, ...own } of slots) {
    const parts: PersonName = { given: text(own.given), family: text(own.surname) };
    const name = wholeName(parts) !== "" ? parts : splitName(text(own.name), [studentFamily]);
    const relationship = text(own.relationship);
    const found =
      addressColumn === undefined ? [{ address: undefined, written: "" }] : readOne(addressColumn);
    found.forEach(({ address, written }, index) => {
      const own = index === 0 ? name : { given: "", family: "" };
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
