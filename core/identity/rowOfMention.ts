import type { RowRecord } from "../sheet/rowRecord";
import type { Mention } from "./clusterGuardians";

/** Returns the row that names a guardian, which is the student's own unless the sheet has a row for each person. */
export function rowOfMention({ record, row }: Pick<Mention, "record" | "row">): RowRecord {
  return row === undefined ? record : { ...record, row };
}
