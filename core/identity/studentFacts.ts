import type { Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import type { MeaningId } from "../sheet/meanings/meaning";
import type { RowRecord } from "../sheet/rowRecord";
import type { Tellings } from "./tellings";

/** One row about a student, and where its cells stand. */
export interface StudentRow {
  subject: string;
  record: RowRecord;
  /** The student's number, empty where it isn't believed. */
  number: string;
  /** The place of its source among all, the oldest first. */
  place: number;
  at: (meaning: MeaningId, slot?: number) => Origin;
}

/** Returns the facts that a row alone settles: that somebody is a student, their number, addresses and further columns. */
export function studentFacts(
  { subject, record, number, at }: StudentRow,
  studentAddress: string,
): Fact[] {
  const facts: Fact[] = [
    { subject, kind: "student", ref: "", value: "", origin: at("student.number") },
  ];
  if (number !== "")
    facts.push({ subject, kind: "number", ref: "", value: number, origin: at("student.number") });
  for (const { column, slot, value } of record.details ?? [])
    facts.push({ subject, kind: "detail", ref: column, value, origin: at("detail", slot) });
  if (record.address !== undefined)
    facts.push({
      subject,
      kind: "address",
      ref: record.address,
      value: "",
      origin: at("student.address"),
    });
  if (number !== "" && studentAddress !== "")
    facts.push({
      subject,
      kind: "address",
      ref: studentAddress.replace("{number}", number.toLowerCase()),
      value: "",
      origin: { from: "rule", rule: "student-address" },
    });
  return facts;
}

/** Takes what a row says and others can say otherwise: name, level and site. */
export function tellStudent(
  told: Tellings,
  { subject, record, number, place, at }: StudentRow,
): void {
  const { answered } = record;
  told.tell(subject, "name", {
    value: record.name,
    origin: at("student.surname"),
    answered,
    place,
    loose: answered !== "" || number === "",
  });
  if (record.level !== "")
    told.tell(subject, "level", {
      value: record.level,
      origin: at("student.level"),
      answered,
      place,
    });
  if (record.site !== "")
    told.tell(subject, "site", { value: record.site, origin: at("site"), answered, place });
}
