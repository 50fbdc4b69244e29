import { indexFacts } from "../facts/indexFacts";
import { doubtedNumbers } from "./doubtedNumbers";
import { nameStudents } from "./nameStudents";
import type { RowRecord } from "../sheet/rowRecord";

/** How many students the rows of one source are about, told apart as an import will; a row that is asked about counts as one more. */
export function countStudents(records: readonly RowRecord[]): number {
  const source = { source: "", reading: "", records };
  const { ids, asked } = nameStudents(records, indexFacts(new Map()), [], doubtedNumbers([source]));
  return new Set(ids.values()).size + asked.length;
}
