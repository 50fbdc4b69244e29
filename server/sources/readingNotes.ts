import { say } from "@amigo/language/say";
import { comparePlans } from "@amigo/core/sheet/comparePlans";
import type { readAll } from "@amigo/core/sheet/readAll";
import { otherSeasonNotes } from "@amigo/core/sheet/readingSummary";
import type { ReadingPlan, TableInSheet } from "@amigo/core/sheet/table";

/** Returns what a person should know about an import: columns that have changed since the last one, rows of another season. */
export function notesOf(
  tables: readonly TableInSheet[],
  last: { plan: ReadingPlan } | undefined,
  { otherSeasons }: ReturnType<typeof readAll>,
): string[] {
  return [
    ...(last === undefined || tables[0] === undefined
      ? []
      : comparePlans(tables[0].table, last.plan).map(({ sentence }) => sentence)),
    ...otherSeasonNotes(otherSeasons),
  ].map(say);
}

/** Counts the guardians whom rows name, each once. */
export function countGuardians(records: ReturnType<typeof readAll>["records"]): number {
  const guardians = records.flatMap(({ guardians: named }) =>
    named.map(({ name, address }) => `${name.given} ${name.family} ${address ?? ""}`),
  );
  return new Set(guardians).size;
}
