import { readAddressCell } from "./addressCell";
import { RowInHand } from "./rowInHand";
import { readPeople } from "./readPeople";
import { readRow, takeTable } from "./readRow";
import { OF_LISTS, learnDomains, type KnownDomains } from "../address/learnDomains";
import type { Sheet } from "./sheet";
import type { Table } from "./table";
import type { RowRecord, CellFault, Records } from "./rowRecord";
import { type ReadingContext, NO_CONTEXT } from "./readingContext";

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
  const domains = learnTogether(sheet, table, known, context.listDomain);
  const inHand = takeTable(table, domains, context);
  const faults: CellFault[] = [];
  const records: RowRecord[] = [];
  const isOfAddresses = isNameless(table);
  const inRow = (index: number): RowInHand =>
    new RowInHand(sheet.rows[index] ?? [], { sheet: table.sheet, row: index + 1 }, faults);
  if (inHand.by("person.kind") !== undefined)
    return { records: readPeople(table.rows.map(inRow), inHand), faults, domains };
  for (const index of table.rows) {
    const row = inRow(index);
    if (isOfAddresses) for (const column of table.columns) readAddressCell(row, column, domains);
    else records.push(...readRow(row, inHand));
  }
  return { records, faults, domains };
}

/** A sheet of addresses alone: it names nobody. */
function isNameless({ columns, headerRow }: Table): boolean {
  return (
    headerRow < 0 &&
    !columns.some(
      ({ meaning }) =>
        meaning === "student.name" ||
        meaning === "student.given" ||
        meaning === "student.surname" ||
        meaning === "children",
    )
  );
}

function learnTogether(
  sheet: Sheet,
  table: Table,
  known: KnownDomains,
  listDomain: string,
): KnownDomains {
  const columns = table.columns.filter(
    ({ meaning }) => meaning === "guardian.address" || meaning === "student.address",
  );
  const together = new Map(known);
  const domains = learnDomains(
    table.rows.flatMap((row) => columns.map(({ index }) => sheet.rows[row]?.[index] ?? "")),
  );
  for (const [domain, uses] of domains)
    together.set(domain, Math.max(uses, together.get(domain) ?? 0));
  if (listDomain !== "") together.set(listDomain, OF_LISTS);
  return together;
}
