import type { FactIndex } from "../facts/factIndex";

/** The family of every person: students who share a guardian, with all guardians of theirs. A family goes by the id of one of its people. */
export function families(index: FactIndex): Map<string, string> {
  const parent = new Map<string, string>();
  const root = (id: string): string => {
    let at = id;
    for (let up = parent.get(at); up !== undefined && up !== at; up = parent.get(at)) {
      parent.set(at, parent.get(up) ?? up);
      at = up;
    }
    return at;
  };
  for (const person of index.people.values()) {
    for (const other of person.ties.keys()) {
      const a = root(person.id);
      const b = root(other);
      if (a !== b) parent.set(a, b);
    }
  }
  return new Map([...index.people.keys()].map((id) => [id, root(id)]));
}
