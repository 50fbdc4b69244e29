import { message } from "@amigo/language/message";
import type { AddressReading } from "../address/addressReading";
import { FAULT_SENTENCE } from "../address/faultSentence";
import type { KnownDomains } from "../address/learnDomains";
import { readAddress } from "../address/readAddress";
import { splitAddresses } from "../address/splitAddresses";
import type { RowInHand } from "./rowInHand";
import type { TableColumn } from "./table";

/** An address as it is read from a cell, as it is written there, and the name beside it, empty for none. */
export interface AddressInCell {
  address: string | undefined;
  written: string;
  name: string;
}

/** Reads the addresses in a row's cell of one column, and tells what is wrong with them. */
export function readAddressCell(
  row: RowInHand,
  column: TableColumn,
  domains: KnownDomains,
): AddressInCell[] {
  const written = row.raw(column);
  if (row.text(column) === "") return [{ address: undefined, written, name: "" }];
  const single = readAddress(written, domains);
  const { pieces, names, leftOver } = mayBeSeveral(single)
    ? splitAddresses(written)
    : { pieces: [], names: [], leftOver: [] };
  if (pieces.length === 0)
    return [{ address: addressOf(row, column, single, written), written, name: "" }];
  return pieces.map((piece, at) => {
    const read = readAddress(piece, domains);
    const reading = pieces.length === 1 ? besideWords(read, leftOver) : read;
    return {
      address: addressOf(row, column, reading, piece),
      written: piece,
      name: names[at] ?? "",
    };
  });
}

/** Reads the one address of a column that holds one for each row; undefined where there is no such column. */
export function readOneAddress(
  row: RowInHand,
  column: TableColumn | undefined,
  domains: KnownDomains,
): string | undefined {
  return column === undefined ? undefined : readAddressCell(row, column, domains)[0]?.address;
}

/** Whether a cell that isn't one plain address may hold several, or a name beside one. */
function mayBeSeveral(reading: AddressReading): boolean {
  return reading.answer === "clean"
    ? reading.tidied.includes("angle-name")
    : reading.answer === "unusable" && reading.fault !== "none-word";
}

/** The only address of a cell is sure where nothing but its name stands beside it. */
function besideWords(reading: AddressReading, leftOver: readonly string[]): AddressReading {
  if (reading.answer !== "clean") return reading;
  if (leftOver.length === 0) return { ...reading, tidied: [...reading.tidied, "angle-name"] };
  return {
    answer: "probably",
    address: reading.address,
    fault: "words-beside",
    why: message("sheet.standsBesideIt", { beside: leftOver.join(", ") }),
  };
}

/** Returns the address to use, and tells what is wrong with the cell, or what was tidied. */
function addressOf(
  row: RowInHand,
  { index: column }: TableColumn,
  reading: AddressReading,
  written: string,
): string | undefined {
  if (reading.answer === "clean") {
    const [tidied] = reading.tidied;
    if (tidied !== undefined)
      row.tell({
        column,
        written,
        fault: tidied,
        answer: "clean",
        proposal: reading.address,
        sentence: FAULT_SENTENCE[tidied],
        why: message("sheet.readAsNothingToDo", { address: reading.address }),
      });
    return reading.address;
  }
  const { fault, answer } = reading;
  if (fault === "none-word") {
    row.tell({
      column,
      written,
      fault,
      answer: "clean",
      proposal: undefined,
      sentence: FAULT_SENTENCE[fault],
      why: message("sheet.readAsNoAddressNothing"),
    });
    return undefined;
  }
  const proposal = answer === "probably" ? reading.address : undefined;
  row.tell({
    column,
    written,
    fault,
    answer,
    proposal,
    sentence: FAULT_SENTENCE[fault],
    why: reading.why,
  });
  return proposal;
}
