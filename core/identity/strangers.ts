import { fitsStudent, type PersonLink } from "./personLink";
import type { RowRecord } from "../sheet/rowRecord";

/**
 * A form tells more about students whom a roster has; alone it makes nobody one, for families go on answering after
 * they have left. Where there is no roster at all, the form is believed.
 */
export function answersOfStrangers(
  rows: readonly { record: RowRecord }[],
  ids: ReadonlyMap<RowRecord, string>,
  links: readonly PersonLink[],
): { all: ReadonlySet<RowRecord>; asked: RowRecord[] } {
  const enrolled = new Set<string>();
  for (const { record } of rows) if (record.answered === "") enrolled.add(ids.get(record) ?? "");
  const all = new Set<RowRecord>();
  const asked: RowRecord[] = [];
  if (enrolled.size === 0) return { all, asked };
  for (const { record } of rows) {
    const id = ids.get(record);
    if (record.answered === "" || id === undefined || enrolled.has(id)) continue;
    const said = [...links]
      .reverse()
      .find(
        ({ says, left }) => (says === "here" || says === "gone") && fitsStudent(record, left),
      )?.says;
    if (said === "here") continue;
    all.add(record);
    if (said === undefined) asked.push(record);
  }
  return { all, asked };
}
