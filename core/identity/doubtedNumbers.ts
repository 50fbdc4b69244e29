import { fold } from "../text/fold";
import { likelyOther } from "./sameName";
import type { RowRecord } from "../sheet/rowRecord";
import type { SourceRecords } from "./sourceRecords";

/** The share of a source's numbers that may stand with several names before none of them is believed. */
const WITHIN = 0.05;
/** The share of the numbers in common with older sources that may belong to other people there. */
const BETWEEN = 0.5;

/**
 * Finds the rows whose numbers tell nobody apart, because their source counts otherwise than the rest of the house: one number
 * with several names in it, or numbers that an older source gives to other people.
 *
 * @param sources oldest first; a source is held against those before it
 */
export function doubtedNumbers(sources: readonly SourceRecords[]): ReadonlySet<RowRecord> {
  const doubted = new Set<RowRecord>();
  const known = new Map<string, { given: string; family: string }>();
  for (const { records } of sources) {
    const namesByNumber = new Map<string, { given: string; family: string }>();
    const clashing = new Set<string>();
    for (const { number, name } of records) {
      if (number === "") continue;
      const key = fold(number);
      const before = namesByNumber.get(key);
      if (before === undefined) namesByNumber.set(key, name);
      else if (likelyOther(before, name)) clashing.add(key);
    }
    let met = 0;
    let strange = 0;
    for (const [key, name] of namesByNumber) {
      const other = known.get(key);
      if (other === undefined) continue;
      met++;
      if (likelyOther(other, name)) strange++;
    }
    if (
      clashing.size > Math.max(1, namesByNumber.size * WITHIN) ||
      (strange > 1 && strange > met * BETWEEN)
    ) {
      for (const record of records) if (record.number !== "") doubted.add(record);
    } else for (const [key, name] of namesByNumber) if (!known.has(key)) known.set(key, name);
  }
  return doubted;
}
