import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { textColumns, type Traces, REMOVED } from "./removalQueries";

/**
 * Takes the traces of somebody out of every text that the database holds, whatever table or column it stands in: texts, lists
 * of texts and JSON. A table that is added later is swept without being named here.
 */
export async function sweepTexts(tx: Queries, traces: Traces): Promise<void> {
  const wanted = [
    ...traces.marks.keys(),
    ...traces.names.flatMap(({ family, given }) => (family === "" ? [given] : [family])),
  ].map((word) => word.toLowerCase());
  if (wanted.length === 0) return;
  const [inTexts, inKeys] = [takerOf(traces), takerOf(traces, traces.key)];
  for (const textColumn of await textColumns(tx)) {
    const name = sql.identifier(textColumn.column);
    const table = sql.identifier(textColumn.table);
    const taken = textColumn.column === "key" ? inKeys : inTexts;
    const { rows } = await tx.execute<{ place: string; value: unknown }>(sql`
      select ctid::text as place, ${textColumn.kind === "json" ? sql`${name}::text` : name} as value from ${table}
      where exists (select 1 from json_array_elements_text(${JSON.stringify(wanted)}::json) as wanted(word) where position(wanted.word in lower(${name}::text)) > 0)`);
    for (const { place, value } of rows) {
      const cleaned =
        textColumn.kind === "json"
          ? JSON.stringify(taken.ofValue(JSON.parse(value as string)))
          : textColumn.kind === "list"
            ? taken.ofValue(value)
            : taken.ofText(value as string);
      if (JSON.stringify(cleaned) === JSON.stringify(value)) continue;
      const bound =
        textColumn.kind === "json"
          ? sql`${cleaned as string}::text::jsonb`
          : textColumn.kind === "list"
            ? sql`array(select json_array_elements_text(${JSON.stringify(cleaned)}::json))`
            : sql`${cleaned as string}`;
      await tx.execute(sql`update ${table} set ${name} = ${bound} where ctid = ${place}::tid`);
    }
  }
}

/** Takes traces out of single texts and of JSON values, and tells whether any stands in the cells of a row. */
export function takerOf(
  { names, marks }: Traces,
  nameless = REMOVED,
): {
  ofText: (text: string) => string;
  ofValue: (value: unknown) => unknown;
  stands: (cells: readonly string[]) => boolean;
} {
  const whole = new Map<string, string>(
    [...marks].map(([mark, instead]) => [mark.toLowerCase(), instead]),
  );
  for (const { given, family } of names) {
    if (given === "" || family === "") continue;
    for (const text of [`${given} ${family}`, `${family}, ${given}`, `${family} ${given}`])
      whole.set(text.toLowerCase(), nameless);
    // Packed facts are JSON within a text.
    for (const space of ["", " "]) {
      const part = (key: string, value: string): string =>
        `"${key}":${space}${JSON.stringify(value)}`;
      const pair = (first: string, last: string): string => `${first},${space}${last}`;
      const [first, last] = [part("given", given), part("family", family)];
      const [none, gone] = [part("given", "somebody"), part("family", "removed")];
      whole.set(pair(first, last).toLowerCase(), pair(none, gone));
      whole.set(pair(last, first).toLowerCase(), pair(gone, none));
    }
  }
  const words = [...whole.keys()].sort((one, other) => other.length - one.length);
  // Taken out where they stand alone, not as a part of a longer name, number or address, which is somebody else's.
  const pattern = new RegExp(
    `(?<![\\p{L}\\p{N}]|[\\p{L}\\p{N}][._+-])(?:${words.map(escaped).join("|")})(?![\\p{L}\\p{N}]|[.@_+-][\\p{L}\\p{N}])`,
    "giu",
  );
  const ofText = (text: string): string =>
    words.length === 0
      ? text
      : text.replace(pattern, (found) => whole.get(found.toLowerCase()) ?? nameless);
  const ofValue = (value: unknown): unknown => {
    if (typeof value === "string") return ofText(value);
    if (Array.isArray(value)) return inPieces(value, value.map(ofValue));
    if (typeof value !== "object" || value === null) return value;
    const keys = Object.keys(value);
    const made = inPieces(Object.values(value), Object.values(value).map(ofValue));
    return Object.fromEntries(keys.map((key, at) => [ofText(key), made[at]]));
  };
  /** Values that stand beside each other and together make the name. */
  const inPieces = (before: readonly unknown[], after: readonly unknown[]): unknown[] => {
    const texts = before.map((item) => (typeof item === "string" ? item.trim().toLowerCase() : ""));
    const gone = new Set<number>();
    for (const { given, family } of names) {
      if (given === "" || family === "") continue;
      const placesOf = (word: string): number[] =>
        texts.flatMap((text, at) => (text === word.toLowerCase() ? [at] : []));
      // The surname nearest to it is theirs; another in the same row is a brother's, sister's or child's.
      for (const at of placesOf(given)) {
        const [nearest] = placesOf(family).sort(
          (one, other) => Math.abs(one - at) - Math.abs(other - at),
        );
        if (nearest === undefined) continue;
        gone.add(at).add(nearest);
      }
    }
    return after.map((item, at) => (gone.has(at) ? "" : item));
  };
  return {
    ofText,
    ofValue,
    stands: (cells) => JSON.stringify(ofValue(cells)) !== JSON.stringify(cells),
  };
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}
