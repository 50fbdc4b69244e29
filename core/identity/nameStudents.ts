import type { FactIndex } from "../facts/indexFacts";
import type { RowRecord } from "../sheet/readRecords";
import { fold } from "../text/fold";
import { hash } from "../text/hash";
import { nameKey } from "./sameName";

/**
 * Gives every row its student: by number, else by the only student of that name, else by name and
 * class. Rows with a number are settled first, so that a sheet without numbers finds them.
 */
export function nameStudents(records: readonly RowRecord[], stand: FactIndex): Map<RowRecord, string> {
  const ids = new Map<RowRecord, string>();
  const byNumber = new Map<string, string>();
  const byName = new Map<string, Map<string, Set<string>>>();
  const learn = (name: string, id: string, classes: Iterable<string>): void => {
    const here = byName.get(name) ?? new Map<string, Set<string>>();
    byName.set(name, here);
    here.set(id, new Set([...(here.get(id) ?? []), ...classes]));
  };
  for (const person of stand.people.values()) {
    if (person.role !== "student") continue;
    if (person.number !== "") byNumber.set(fold(person.number), person.id);
    learn(nameKey(person), person.id, [...person.cohorts].map((key) => key.slice(key.indexOf(":") + 1)));
  }
  const numbered = records.filter((record) => record.number !== "");
  const unnumbered = records.filter((record) => record.number === "");
  for (const record of numbered) {
    const number = fold(record.number);
    const id = byNumber.get(number) ?? `s-${hash(`number ${number}`)}`;
    byNumber.set(number, id);
    ids.set(record, id);
    learn(nameKey(record.name), id, record.classes.map(fold));
  }
  for (const record of unnumbered) {
    const name = nameKey(record.name);
    const candidates = byName.get(name);
    const places = [...record.classes, ...record.teams].map(fold);
    const ofClass = [...(candidates ?? [])].filter(([, classes]) => places.some((place) => classes.has(place)));
    const only = candidates?.size === 1 ? [...candidates.keys()][0] : ofClass.length === 1 ? ofClass[0]?.[0] : undefined;
    const id = only ?? `s-${hash(`name ${name} ${candidates === undefined ? "" : places.join(" ")}`)}`;
    ids.set(record, id);
    learn(name, id, places);
  }
  return ids;
}
