import type { FactIndex } from "../facts/factIndex";
import { fold } from "../text/fold";
import type { PersonLink } from "./personLink";
import { likelyOther, nameKey } from "./sameName";
import type { RowRecord } from "../sheet/rowRecord";
import { type KnownStudent, Students } from "./knownStudents";
import { isSaidOther, linkedTo, followStudentLinks } from "./studentLinks";
import { match } from "./matchStudent";

export interface NamedStudents {
  /** The student of each row; a row that is asked about has none. */
  ids: Map<RowRecord, string>;
  /** Rows of which only a person can tell whose they are. */
  asked: { record: RowRecord; candidates: KnownStudent[]; why: "name" | "number" }[];
  /** Rows whose number is somebody else's, or tells nobody apart. */
  numberless: ReadonlySet<RowRecord>;
}

/**
 * Gives every row its student, with one of three answers. *Same*: by number, else by the only student of that
 * name, by name and class or a guardian's address, or by a name that is one slip, an initial or a lost letter
 * away with class or address to show for it. *New*: nobody is called so. *Ask*: several could be meant, or
 * somebody of nearly that name with nothing else in common, or a number that stands with another name already. Rows with
 * a number are settled first.
 *
 * @param doubted  rows whose number tells nobody apart; they go by name
 * @param sourceOf the source of each row; all one where nothing is said
 */
export function nameStudents(
  records: readonly RowRecord[],
  stand: FactIndex,
  links: readonly PersonLink[] = [],
  doubted: ReadonlySet<RowRecord> = new Set(),
  sourceOf: (record: RowRecord) => string = () => "",
): NamedStudents {
  const numberless = new Set(doubted);
  const numberOf = (record: RowRecord): string =>
    numberless.has(record) ? "" : fold(record.number);
  const known = new Students();
  for (const person of stand.people.values()) {
    if (person.role !== "student") continue;
    known.learn({
      id: person.id,
      number: fold(person.number),
      name: person,
      places: () => [...person.cohorts].map((key) => key.slice(key.indexOf(":") + 1)),
      addresses: () =>
        [...person.ties.keys()].flatMap((id) => [...(stand.people.get(id)?.addresses ?? [])]),
    });
  }
  const ids = new Map<RowRecord, string>();
  const asked: NamedStudents["asked"] = [];
  const studentLinks = links.filter(({ left }) => left.role === "student");
  const take = (record: RowRecord, id: string): void => {
    ids.set(record, id);
    known.learn({
      id,
      number: numberOf(record),
      name: record.name,
      places: () => [...record.classes, ...record.teams].map(fold),
      addresses: () =>
        record.guardians.flatMap(({ address }) => (address === undefined ? [] : [address])),
    });
  };
  const holders = new Map<string, RowRecord>();
  for (const record of records) {
    const number = numberOf(record);
    if (number === "") continue;
    const holder = holders.get(number);
    const stood = stand.people.get(known.numbered(number));
    const isOther =
      holder !== undefined
        ? likelyOther(holder.name, record.name)
        : stood !== undefined && nothingInCommon(stood, record.name);
    if (isOther) numberless.add(record);
    else {
      if (holder === undefined) holders.set(number, record);
      take(record, known.numbered(number));
    }
  }
  const present = new Set(records.map(({ name }) => nameKey(name)));
  /** Names by the source that writes them, but for answers, which families give twice. */
  const written = new Set(
    records
      .filter(({ answered }) => answered === "")
      .map((record) => `${sourceOf(record)} ${nameKey(record.name)}`),
  );
  for (const record of records) {
    if (numberOf(record) !== "") continue;
    const owner =
      record.number === "" || doubted.has(record)
        ? undefined
        : known.student(known.numbered(fold(record.number)));
    const said = linkedTo(record, studentLinks, known);
    if (said !== undefined) take(record, said);
    else if (owner !== undefined && !isSaidOther(record, owner, studentLinks))
      asked.push({ record, candidates: [owner], why: "number" });
    else {
      const found = match(record, known, studentLinks, {
        present,
        isWritten: (name) =>
          record.answered === "" && written.has(`${sourceOf(record)} ${nameKey(name)}`),
      });
      if (typeof found === "string") take(record, found);
      else asked.push({ record, candidates: found, why: "name" });
    }
  }
  return { ids: followStudentLinks(ids, studentLinks), asked, numberless };
}

/** Whether a number has passed to somebody of another name altogether; a new surname, or a given name in full, is no such thing. */
function nothingInCommon(
  a: { given: string; family: string },
  b: { given: string; family: string },
): boolean {
  const words = new Set(nameKey(a).split(" "));
  return (
    likelyOther(a, b) &&
    !nameKey(b)
      .split(" ")
      .some((word) => words.has(word))
  );
}
