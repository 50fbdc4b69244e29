import { inOrder } from "@amigo/language/inOrder";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/factIndex";
import { countReached, guardiansOf, type Stopped } from "@amigo/core/reach/reach";
import type { PrintedTable } from "../pdf/tablePdf";
import { t } from "../texts/t";

/** What can be printed of a class, team or committee. */
export type Sheet = "class-list" | "team-sheet";

type Table = Pick<PrintedTable, "title" | "line" | "columns" | "rows" | "empty">;

/** The students of a class or team whom somebody may know, by surname. */
export function studentsOf(key: string, known: FactIndex): Person[] {
  return [...(known.enrolled.get(key) ?? [])]
    .flatMap((id) => known.people.get(id) ?? [])
    .sort(
      (a, b) => inOrder(a.family, b.family) || inOrder(a.given, b.given) || (a.id < b.id ? -1 : 1),
    );
}

/** The class list: one line a child, with number and level, and room to tick. */
export function classList(title: string, students: readonly Person[]): Table {
  return {
    title,
    line: t("lists.childrenOnIt", { count: students.length }),
    columns: [
      { title: "", share: 4 },
      { title: t("shared.surname"), share: 22 },
      { title: t("shared.firstName"), share: 20 },
      { title: t("lists.number"), share: 14 },
      { title: t("lists.level"), share: 8 },
      { title: "", share: 32 },
    ],
    rows: students.map(({ family, given, number, level }, at) => [
      [String(at + 1)],
      [family],
      [given],
      [number],
      [level],
      [""],
    ]),
    empty: t("lists.nobodyIsInIt"),
  };
}

/**
 * The team sheet: child by child with guardians, addresses and what is missing.
 *
 * @param stopped addresses to which mail has stopped
 */
export function teamSheet(
  title: string,
  students: readonly Person[],
  known: FactIndex,
  stopped: Stopped,
): Table {
  const reach = countReached(students, known, stopped);
  const missing = reach.students - reach.reached;
  return {
    title,
    line: t("lists.studentsChildChildrenMissing0", { students: students.length, missing }),
    columns: [
      { title: t("lists.child"), share: 22 },
      { title: t("shared.guardian"), share: 23 },
      { title: t("shared.address"), share: 36 },
      { title: t("lists.missing"), share: 19 },
    ],
    rows: students.map((child) => {
      const guardians = guardiansOf(child, known);
      return [
        [nameOf(child)],
        guardians.flatMap((guardian) => [
          nameOf(guardian),
          ...[...guardian.addresses].slice(1).map(() => ""),
        ]),
        guardians.flatMap((guardian) =>
          guardian.addresses.size === 0 ? [t("shared.noAddress")] : [...guardian.addresses],
        ),
        missingOf(guardians, stopped),
      ];
    }),
    empty: t("lists.nobodyIsInIt"),
  };
}

function missingOf(guardians: readonly Person[], stopped: Stopped): string[] {
  if (guardians.length === 0) return [t("lists.noGuardian")];
  const failing = guardians.flatMap(({ addresses }) =>
    [...addresses].filter((address) => stopped.has(address)),
  );
  return [
    ...(guardians.every(({ addresses }) => addresses.size === 0) ? [t("lists.anAddress")] : []),
    ...(failing.length === 0
      ? []
      : [failing.length === 1 ? t("lists.oneAddressFails") : t("lists.addressesFail")]),
  ];
}
