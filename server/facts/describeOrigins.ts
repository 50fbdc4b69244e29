import { columnSlot } from "@amigo/core/sheet/slot";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import type { Origin, RuleOfHouse } from "@amigo/core/facts/origin";
import { columnLetters } from "@amigo/core/sheet/sheet";
import type { Queries } from "../db/connect";
import { t, type TextId } from "../texts/t";
import { listReadings, listCorrectionsBy } from "./readingQueries";

/** Tells in words where something is known from: source, sheet, row and column, the correction, or whose word it is. */
export type DescribeOrigin = (origin: Origin) => {
  text: string;
  reading: string | null;
  source: string | null;
};

const RULE_WORDS: Record<RuleOfHouse, TextId> = {
  "student-address": "readings.byTheHousesRuleFor",
  convention: "readings.byTheNamingConvention",
  "carried over": "readings.carriedOverFromLastSeason",
};

/** Looks up once what the origins of some facts need, and returns how to tell each. */
export async function describeOrigins(
  db: Queries,
  origins: readonly Origin[],
): Promise<DescribeOrigin> {
  const readings = [
    ...new Set(origins.flatMap((origin) => (origin.from === "row" ? [origin.reading] : []))),
  ];
  const corrections = [
    ...new Set(
      origins.flatMap((origin) =>
        origin.from === "row" && origin.corrected !== undefined ? [origin.corrected] : [],
      ),
    ),
  ];
  const found = readings.length === 0 ? [] : await listReadings(db, readings);
  const fixes = corrections.length === 0 ? [] : await listCorrectionsBy(db, corrections);
  const byReading = new Map(found.map((row) => [row.id, row]));
  const byCorrection = new Map(fixes.map((row) => [row.id, row]));
  return (origin) => {
    if (origin.from === "rule")
      return { text: t(RULE_WORDS[origin.rule]), reading: null, source: null };
    if (origin.from === "hand")
      return { text: t("readings.byHand", { by: origin.by }), reading: null, source: null };
    const at = byReading.get(origin.reading);
    const column =
      at?.plan.columns.findIndex(
        ({ meaning, slot }) => meaning === origin.meaning && slot === columnSlot(origin.slot),
      ) ?? -1;
    const fix = byCorrection.get(origin.corrected ?? "");
    return {
      text: t("readings.row", {
        source: at?.name ?? t("readings.aSource"),
        sheet: (at?.plan.others ?? []).length > 0 ? origin.sheet : null,
        row: origin.row,
        column: column < 0 ? null : columnLetters(column),
        by: fix?.by ?? null,
        written: fix?.written,
      }),
      reading: origin.reading,
      source: at?.source ?? null,
    };
  };
}

/** The same for facts, by their keys. */
export async function describeFacts(
  db: Queries,
  facts: readonly Fact[],
): Promise<ReadonlyMap<string, string>> {
  const describe = await describeOrigins(
    db,
    facts.map(({ origin }) => origin),
  );
  return new Map(facts.map((fact) => [factKey(fact), describe(fact.origin).text]));
}
