import { readAddressCell } from "./addressCell";
import type { KnownDomains } from "../address/learnDomains";
import type { RowInHand } from "./rowInHand";
import { slotOf } from "./slot";
import { message } from "@amigo/language/message";
import { tidyLine } from "../text/tidy";
import type { MeaningId } from "./meanings/meaning";
import { pairAddresses, type NamedAddress } from "./shapes/pairAddresses";
import { splitPeople } from "./shapes/splitPeople";
import {
  splitName,
  wholeName,
  withoutCapitals,
  type NameManner,
  type PersonName,
} from "./splitName";
import type { TableColumn } from "./table";
import type { GuardianMention } from "./rowRecord";

/** The columns of one guardian. */
export interface GuardianSlot {
  slot: number;
  name: TableColumn | undefined;
  given: TableColumn | undefined;
  surname: TableColumn | undefined;
  address: TableColumn | undefined;
  relationship: TableColumn | undefined;
}

/** The columns of a table's guardians, and how addresses and names are written in it. */
export interface GuardianColumns {
  slots: readonly GuardianSlot[];
  domains: KnownDomains;
  manners: NameManner;
}

/** The columns of each guardian of a table, in the order of their numbers. */
export function guardianSlots(columns: readonly TableColumn[]): GuardianSlot[] {
  const slots = [
    ...new Set(
      columns
        .filter((column) => column.slot > 0 && column.meaning !== "detail")
        .map((column) => column.slot),
    ),
  ].sort((a, b) => a - b);
  return slots.map((slot) => {
    const at = (meaning: MeaningId): TableColumn | undefined =>
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

/**
 * Reads the guardians whom a row names, each with the address that is theirs.
 *
 * @param families the children's surnames, which are likely theirs
 */
export function readGuardians(
  row: RowInHand,
  { slots, domains, manners }: GuardianColumns,
  families: readonly string[],
): GuardianMention[] {
  const mentions: GuardianMention[] = [];
  for (const { slot, address: column, ...rest } of slots) {
    const parts: PersonName = { given: row.text(rest.given), family: row.text(rest.surname) };
    const manner: NameManner = {
      ...manners,
      ...(isNameOrder(rest.name?.order) ? { order: rest.name?.order } : {}),
    };
    const people =
      wholeName(parts) !== ""
        ? splitParts(parts)
        : splitPeople(row.raw(rest.name), families, manner);
    const relationship = row.text(rest.relationship);
    const found: NamedAddress[] =
      column === undefined
        ? []
        : readAddressCell(row, column, domains)
            .filter(({ address, written }) => address !== undefined || tidyLine(written) !== "")
            .map(({ name, ...read }) => ({
              ...read,
              beside: splitName(personIn(name), families, manners),
            }));
    const { pairs, unsure } = pairAddresses(
      people.map((person) => withoutCapitals(person, manner)),
      found,
    );
    if (unsure && column !== undefined)
      row.tell({
        column: column.index,
        written: row.text(column),
        fault: "whose",
        answer: "probably",
        proposal: pairs
          .filter(({ address }) => address !== undefined)
          .map(({ name, address }) => `${wholeName(name)} <${address ?? ""}>`)
          .join("; "),
        sentence: message("sheet.nothingTellsWhichAddressIs"),
        why: message("sheet.readInTheOrderIn"),
      });
    pairs.forEach(({ name, address, written }, index) => {
      if (wholeName(name) === "" && address === undefined) return;
      mentions.push({
        slot: slotOf(slot, index),
        name,
        address,
        written,
        column: column?.index,
        relationship,
      });
    });
  }
  return mentions;
}

function isNameOrder(order: TableColumn["order"]): order is "family first" | "given first" {
  return order === "family first" || order === "given first";
}

/** Two given names in one cell beside one surname are two people. */
function splitParts({ given, family }: PersonName): PersonName[] {
  const people = splitPeople(given, [], {});
  if (people.length < 2) return [{ given, family }];
  const families = splitPeople(family, [], {});
  return people.map((person, at) => ({
    given: wholeName(person),
    family: families.length === people.length ? wholeName(families[at] ?? person) : family,
  }));
}

/** The name of a person that stands beside an address; a word such as "mother" or "(work)" is none. */
function personIn(beside: string): string {
  return /\p{Lu}\p{L}+[ ,]+\p{Lu}/u.test(beside) ? beside : "";
}
