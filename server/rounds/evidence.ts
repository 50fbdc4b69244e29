import { columnSlot } from "@amigo/core/sheet/slot";
import { say } from "@amigo/language/say";
import type { Fact } from "@amigo/core/facts/fact";
import type { Origin } from "@amigo/core/facts/origin";
import { ALL_MEANINGS } from "@amigo/core/sheet/meanings/allMeanings";
import { isUsed } from "@amigo/core/sheet/meanings/isUsed";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import { meaningName } from "@amigo/core/sheet/meanings/meaningName";
import type { CausePage } from "@amigo/contract/causes";
import type { Queries } from "../db/connect";
import { listReadRows } from "../facts/rowQueries";
import { listReadingsOf } from "./evidenceQueries";

type RowOrigin = Extract<Origin, { from: "row" }>;
type Evidence = CausePage["evidence"];

/**
 * The rows of the sheets that show a cause: as they stood before, and as they stand now, their cells in
 * the same order of meanings even where columns have moved, with what differs marked.
 */
export async function evidenceOf(
  db: Queries,
  found: { kind: string; subject: string; adds: readonly Fact[]; removes: readonly Fact[] },
  stand: readonly Fact[],
): Promise<Evidence> {
  const removed = firstRow(found.removes);
  const before = removed ?? (found.kind === "joined" ? undefined : firstRow(stand));
  const now = firstRow(found.adds);
  const origins = [before, now].filter((origin) => origin !== undefined);
  if (origins.length === 0) return [];
  const readings = await listReadingsOf(db, origins);
  const rows = await Promise.all(
    origins.map(async (origin) => {
      const from = readings.find(({ id }) => id === origin.reading);
      const sheet = Math.max(
        [from?.plan.sheet, ...(from?.plan.others ?? [])].indexOf(origin.sheet),
        0,
      );
      const [row] = await listReadRows(db, origin.reading, {
        sheet,
        from: origin.row,
        until: origin.row + 1,
      });
      return { origin, from, sheet, cells: row?.cells ?? [] };
    }),
  );
  const cells = rows.map(({ from, cells: written }) =>
    byMeaning(from?.plan.columns ?? [], written),
  );
  const [first, second] = cells;
  return rows.flatMap(({ origin, from, sheet }, index): Evidence => {
    const cell = cells[index];
    if (from === undefined || cell === undefined) return [];
    const other = index === 0 ? second : first;
    const when = origin === now ? ("now" as const) : ("before" as const);
    const mark = when === "now" ? ("new" as const) : ("gone" as const);
    const isOneSource = rows.every((row) => row.from?.sourceId === from.sourceId);
    const keys = [
      ...new Set(isOneSource ? [...(first?.keys() ?? []), ...(second?.keys() ?? [])] : cell.keys()),
    ].sort((a, b) => place(a) - place(b));
    // Rows of two sheets are not alike: there only the cell that the cause is about is marked, and none where nothing is gone.
    const differs = (key: string): boolean =>
      isOneSource
        ? other !== undefined && (other.get(key) ?? "") !== (cell.get(key) ?? "")
        : (when === "now" || removed !== undefined) &&
          key === `${origin.meaning} ${columnSlot(origin.slot)}`;
    return [
      {
        source: from.source,
        readAt: from.readAt.toISOString(),
        row: origin.row,
        when,
        reading: origin.reading,
        sheet,
        sheetName: origin.sheet,
        cells: keys.map((key) => ({
          label: labelOf(key),
          meaning: key,
          column: from.plan.columns.findIndex(({ meaning, slot }) => `${meaning} ${slot}` === key),
          text: cell.get(key) ?? "",
          mark: rows.length === 2 && differs(key) ? mark : "",
        })),
      },
    ];
  });
}

function firstRow(facts: readonly Fact[]): RowOrigin | undefined {
  for (const { origin } of facts) if (origin.from === "row") return origin;
  return undefined;
}

function byMeaning(
  columns: readonly { meaning: MeaningId; slot: number }[],
  cells: readonly string[],
): Map<string, string> {
  const found = new Map<string, string>();
  columns.forEach(({ meaning, slot }, index) => {
    if (isUsed(meaning)) found.set(`${meaning} ${slot}`, cells[index] ?? "");
  });
  return found;
}

const ORDER = new Map<string, number>(ALL_MEANINGS.map(({ id }, index) => [id, index]));

function place(key: string): number {
  const [meaning = "", slot = "0"] = key.split(" ");
  const slotted = Number(slot);
  return slotted > 0 ? 100 * slotted + (ORDER.get(meaning) ?? 0) : (ORDER.get(meaning) ?? 0);
}

function labelOf(key: string): string {
  const [meaning = "unread", slot = "0"] = key.split(" ");
  return say(meaningName({ meaning: meaning as MeaningId, slot: Number(slot) }, "in a sentence"));
}
