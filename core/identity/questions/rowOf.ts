import type { Origin } from "../../facts/origin";
import { wholeName } from "../../sheet/splitName";
import { each, message, type Message } from "@amigo/language/message";
import { fold } from "../../text/fold";
import type { PersonMark } from "../personLink";
import { nameKey } from "../sameName";
import type { RowRecord } from "../../sheet/rowRecord";

export interface RowOf {
  source: string;
  reading: string;
  record: RowRecord;
}

export function markOfRow(record: RowRecord): PersonMark {
  return {
    role: "student",
    names: [nameKey(record.name)],
    numbers: [],
    students: [],
    addresses: [],
    places: [...record.classes, ...record.teams].map(fold),
  };
}

export function classesIn(names: readonly string[]): Message {
  return names.length === 0 ? message("identity.noClass") : each(names);
}

/** Returns where the cell of a row that names its student stands; undefined where the row is not known. */
export function whereOf(row: RowOf | undefined): Origin | undefined {
  return row === undefined
    ? undefined
    : {
        from: "row",
        source: row.source,
        reading: row.reading,
        sheet: row.record.sheet,
        row: row.record.row,
        meaning: "student.name",
        slot: 0,
      };
}

/** Returns the guardians of a row, each with their address, as lines beside a question. */
export function guardiansOf({ guardians }: RowRecord): string[] {
  return guardians.map(({ name, address = "" }) =>
    [wholeName(name), address].filter((part) => part !== "").join(", "),
  );
}
