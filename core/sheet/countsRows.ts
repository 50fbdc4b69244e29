import { message, type Message } from "@amigo/language/message";
import { likelyOther } from "../identity/sameName";
import { tidyLine } from "../text/tidy";
import { nameInRow } from "./nameInRow";
import type { PersonName } from "./splitName";
import type { TableInSheet } from "./table";

/** Of the numbers of a source that many at least must be one person's, or they tell nobody apart. */
const CLASHES = 0.05;
/** Of the steps from one row to the next that many are 1 where a column counts its rows. */
const STEPS = 0.9;
/** Titles that say whose number it is; a plain "No." can be anything's. */
const OF_SOMEBODY = 1;

/**
 * Tells why the numbers of a source are no student numbers: over all its sheets one number stands with several names, or it
 * counts the rows of each sheet, 1, 2, 3.
 *
 * @param sure how sure the title alone makes one that it is a student's number, 0 to 1
 * @returns what people are told, or undefined where nothing speaks against it
 */
export function whyNoIdentity(tables: readonly TableInSheet[], sure: number): Message | undefined {
  const names = new Map<string, PersonName>();
  const clashing = new Set<string>();
  let steps = 0;
  let ones = 0;
  let starts = 0;
  let title = "";
  for (const { sheet, table } of tables) {
    const column = table.columns.find(({ meaning }) => meaning === "student.number");
    if (column === undefined) continue;
    title = column.title;
    let before: number | undefined;
    for (const row of table.rows) {
      const cells = sheet.rows[row] ?? [];
      const number = tidyLine(cells[column.index] ?? "");
      if (number === "") continue;
      const name = nameInRow(cells, table);
      const known = names.get(number);
      if (known === undefined) names.set(number, name);
      else if (likelyOther(known, name)) clashing.add(number);
      const value = /^\d{1,4}\.?$/.test(number) ? Number.parseInt(number, 10) : Number.NaN;
      if (before !== undefined) {
        steps++;
        if (value === before + 1) ones++;
      } else if (value === 1) starts++;
      before = value;
    }
  }
  if (names.size === 0) return undefined;
  if (clashing.size > Math.max(1, names.size * CLASHES))
    return message("sheet.numbersClash", { title });
  if (sure < OF_SOMEBODY && starts > 0 && steps > 0 && ones >= steps * STEPS)
    return message("sheet.numbersCount", { title });
  return undefined;
}
