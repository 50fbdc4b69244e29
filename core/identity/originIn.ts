import { columnSlot } from "../sheet/slot";
import type { Origin } from "../facts/origin";
import type { MeaningId } from "../sheet/meanings/meaning";
import type { RowRecord } from "../sheet/rowRecord";

/** Where a cell of a row stands, and the correction by which it was read. */
export function originIn(
  source: string,
  reading: string,
  record: RowRecord,
): (meaning: MeaningId, slot?: number) => Origin {
  return (meaning, written = 0) => {
    // Of a row with several children, the column of this one.
    const slot = written === 0 ? (record.slots?.get(meaning) ?? 0) : written;
    const origin: Origin = {
      from: "row",
      source,
      reading,
      sheet: record.sheet,
      row: record.row,
      meaning,
      slot,
    };
    const corrected = record.corrected?.get(`${meaning} ${columnSlot(slot)}`);
    return corrected === undefined ? origin : { ...origin, corrected };
  };
}
