import type { RowRecord } from "../sheet/rowRecord";

/** The latest reading of one source, taken apart into records. Sources stand in the order in which they were made. */
export interface SourceRecords {
  source: string;
  reading: string;
  records: readonly RowRecord[];
  /** Whether being absent from it means having left; a form, or a sheet of additions, only adds. */
  whole?: boolean;
}
