import { message, type Message } from "@amigo/language/message";
import { fold } from "../text/fold";
import { readAddressCell } from "./addressCell";
import { splitChoices } from "./cellChoices";
import { isTie } from "./columns/tie";
import { readRow, type TableInHand } from "./readRow";
import type { RowInHand } from "./rowInHand";
import type { GuardianMention, RowRecord } from "./rowRecord";
import { kindOfPerson, type KindOfPerson } from "./shapes/kindOfPerson";
import { slotOf } from "./slot";
import { wholeName } from "./splitName";
import type { TableColumn } from "./table";

/** More rows than this are no family, whatever they have in common. */
const LARGEST_FAMILY = 40;

/**
 * Reads a table in which each row is one person: a record for each child, with the adults of the family as guardians. An adult
 * in a class that no child is in is a member, too, and so is one without a child, where that isn't called a parent and is in a
 * class. Others without a child are told as faults, for nothing says whose parents they are.
 */
export function readPeople(rows: readonly RowInHand[], table: TableInHand): RowRecord[] {
  const [kindAt, familyAt] = [table.by("person.kind"), table.by("family")];
  const keyOf = (row: RowInHand): string => fold(row.text(familyAt));
  const sizes = new Map<string, number>();
  for (const row of rows) sizes.set(keyOf(row), (sizes.get(keyOf(row)) ?? 0) + 1);
  const familyOf = (row: RowInHand): string => {
    const key = keyOf(row);
    return (sizes.get(key) ?? 0) > LARGEST_FAMILY ? "" : key;
  };
  const kindOf = (row: RowInHand): KindOfPerson => kindOfPerson(row.text(kindAt)) ?? "child";
  const isAdult = (row: RowInHand): boolean => kindOf(row) !== "child";
  const children = rows.filter((row) => !isAdult(row));
  const withChildren = new Set(children.map(familyOf));
  withChildren.delete("");
  const ofChildren = new Set(children.flatMap((row) => groupsOf(row, table)));
  const guardians = new Map<string, GuardianMention[]>();
  const members = new Set(children);
  for (const row of rows) {
    if (!isAdult(row)) continue;
    if (kindOf(row) === "staff") {
      tell(row, kindAt, message("sheet.staffRow"));
      continue;
    }
    const family = familyOf(row);
    const isParent = withChildren.has(family);
    const groups = groupsOf(row, table);
    const isMember =
      groups.some((group) => !ofChildren.has(group)) ||
      (!isParent && kindOf(row) === "adult" && (groups.length > 0 || ofChildren.size === 0));
    if (isMember) members.add(row);
    if (isParent) {
      const before = guardians.get(family) ?? [];
      guardians.set(family, [...before, ...mentionsIn(row, table, before.length)]);
    } else if (!isMember) tellNoChild(row, table);
  }
  const own: TableInHand = {
    ...table,
    slots: [],
    // In a child's row an address is the child's.
    children: table.children.map((columns) => ({
      ...columns,
      address: columns.address ?? table.by("guardian.address"),
    })),
  };
  return rows
    .filter((row) => members.has(row))
    .flatMap((row) =>
      readRow(row, own).map((record) => ({
        ...record,
        guardians: isAdult(row) ? [] : (guardians.get(familyOf(row)) ?? []),
      })),
    );
}

/** The classes and teams in a row's cells, folded. */
function groupsOf(row: RowInHand, { by }: TableInHand): string[] {
  return (["classes", "teams"] as const).flatMap((meaning) =>
    splitChoices(row.raw(by(meaning))).map(fold),
  );
}

/** An adult's row as guardians: one for each address in it, or one without. */
function mentionsIn(row: RowInHand, { by, children, domains }: TableInHand, before: number) {
  const name = children[0]?.children(row.cells)[0]?.name ?? { given: "", family: "" };
  const column = by("guardian.address") ?? by("student.address");
  const said = row.text(by("guardian.relationship"));
  const kind = row.text(by("person.kind"));
  const found = column === undefined ? [] : readAddressCell(row, column, domains);
  return (found.length === 0 ? [{ address: undefined, written: "" }] : found)
    .filter(({ address }) => address !== undefined || wholeName(name) !== "")
    .map(({ address, written }, at): GuardianMention => ({
      slot: slotOf(1, before + at),
      name,
      address,
      written,
      column: column?.index,
      relationship: said !== "" ? said : isTie(fold(kind)) ? kind : "",
      row: row.place.row,
    }));
}

function tellNoChild(row: RowInHand, { by }: TableInHand): void {
  const family = by("family");
  tell(
    row,
    by("person.kind"),
    family === undefined
      ? message("sheet.adultWithoutFamily")
      : message("sheet.adultWithoutChild", { family: family.title }),
  );
}

/** Says why a row is about nobody who is imported. */
function tell(row: RowInHand, kind: TableColumn | undefined, sentence: Message): void {
  row.tell({
    column: kind?.index ?? 0,
    written: row.raw(kind),
    fault: "no-name",
    answer: "unusable",
    proposal: undefined,
    sentence,
    why: message("sheet.theRowIsSetAsideAdult"),
  });
}
