import { message, type Message } from "@amigo/language/message";
import { isInside } from "../address/isInside";
import type { KnownDomains } from "../address/learnDomains";
import { readAddress } from "../address/readAddress";
import { tidyLine } from "../text/tidy";
import { findTarget, type Target } from "./findTarget";
import type { IntakeCells, IntakeColumn } from "./intake";
import { readDay } from "./readDay";

/** What an intake's rows are read by. */
export interface IntakeReads {
  targets: readonly Target[];
  insideDomains: readonly string[];
  known: KnownDomains;
  /** A calendar date on the house's clocks. */
  today: string;
}

/** What is wrong with one cell; `proposal` is what was probably meant. */
export interface IntakeFault {
  column: IntakeColumn;
  sentence: Message;
  proposal?: string;
}

/** What a row asks for. Days are calendar dates, empty for at once and for no end. */
export interface IntakeWish {
  person: string;
  address: string;
  target: Target;
  from: string;
  until: string;
}

export type IntakeRead = { ok: true; wish: IntakeWish } | { ok: false; faults: IntakeFault[] };

/** Whether nothing is written in a row. */
export function isBlank(cells: IntakeCells): boolean {
  return Object.values(cells).every((cell) => cell.trim() === "");
}

/** Reads a row: what it asks for, or every fault with its cell. An empty cell of a row that is still being written is a fault, too: it can't be carried out. */
export function readIntakeRow(
  cells: IntakeCells,
  { targets, insideDomains, known, today }: IntakeReads,
): IntakeRead {
  const faults: IntakeFault[] = [];
  const person = tidyLine(cells.person);
  if (person === "") faults.push({ column: "person", sentence: message("intake.whoIsItWriteThe") });
  const read = readAddress(cells.address, known);
  if (cells.address.trim() === "")
    faults.push({ column: "address", sentence: message("intake.writeTheAddress") });
  else if (read.answer === "unusable")
    faults.push({
      column: "address",
      sentence: message("intake.thisIsNoAddress", { why: read.why }),
    });
  else if (read.answer === "probably")
    faults.push({
      column: "address",
      sentence: message("intake.didYouMean", { why: read.why, address: read.address }),
      proposal: read.address,
    });
  const address = read.answer === "unusable" ? "" : read.address;
  const found =
    cells.to.trim() === ""
      ? undefined
      : findTarget(cells.to, targets, isInside(address, insideDomains));
  if (found === undefined)
    faults.push({ column: "to", sentence: message("intake.writeTheListOrThe") });
  else if (!found.ok)
    faults.push({
      column: "to",
      sentence: found.sentence,
      ...(found.proposal === undefined ? {} : { proposal: found.proposal }),
    });
  const day = (column: "from" | "until"): string => {
    if (cells[column].trim() === "") return "";
    const foundDay = readDay(cells[column], today);
    if (foundDay === undefined)
      faults.push({
        column,
        sentence: message("intake.isNoDayWriteIt", { written: cells[column].trim().slice(0, 40) }),
      });
    return foundDay ?? "";
  };
  const [from, until] = [day("from"), day("until")];
  if (until !== "" && until < today)
    faults.push({ column: "until", sentence: message("intake.thisDayIsOver") });
  else if (until !== "" && from !== "" && until < from)
    faults.push({ column: "until", sentence: message("intake.thisIsBeforeTheFirst") });
  return faults.length > 0 || found?.ok !== true
    ? { ok: false, faults }
    : { ok: true, wish: { person, address, target: found.target, from, until } };
}
