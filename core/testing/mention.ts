import type { Mention } from "../identity/clusterGuardians";
import type { RowRecord } from "../sheet/rowRecord";
import type { PersonName } from "../sheet/splitName";

/** A name as people write it, the given name first. */
export function named(text: string): PersonName {
  const [given = "", ...family] = text.split(" ");
  return { given, family: family.join(" ") };
}

/** A row about one student, of which only what a test is about is said. */
export function recordOf(more: Partial<RowRecord> = {}): RowRecord {
  return {
    sheet: "Sheet",
    row: 2,
    number: "",
    name: { given: "", family: "" },
    level: "",
    site: "",
    classes: [],
    teams: [],
    coach: "",
    address: undefined,
    answered: "",
    guardians: [],
    ...more,
  };
}

/** A guardian as a row names them; each is in a row of its own unless a test says which. */
export function mention(
  name: string,
  { row, ...more }: Partial<Omit<Mention, "name">> & { row?: number } = {},
): Mention {
  return {
    slot: 1,
    name: named(name),
    address: undefined,
    written: more.address ?? "",
    column: undefined,
    relationship: "",
    student: "s",
    source: "roster",
    reading: "2",
    record: recordOf({ row: row ?? 2 }),
    ...more,
  };
}
