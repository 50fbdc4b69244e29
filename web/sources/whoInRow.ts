import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";

const NAMES: readonly MeaningId[] = [
  "student.given",
  "student.surname",
  "student.name",
  "children",
];

/** The student whom a row is about, as its cells write the name. */
export function whoInRow(
  columns: readonly { meaning: MeaningId }[],
  cells: readonly string[] | undefined,
): string {
  return NAMES.flatMap((wanted) =>
    columns.flatMap(({ meaning }, index) =>
      meaning === wanted ? [cells?.[index]?.trim() ?? ""] : [],
    ),
  )
    .filter((part) => part !== "")
    .join(" ");
}
