import type { FactIndex } from "../facts/factIndex";
import { fold } from "../text/fold";
import { hash } from "../text/hash";
import { fitsStudent, type PersonLink, type PersonMark } from "./personLink";
import { isOneSlip } from "../text/slip";
import { likelyOther, nameKey, sameName } from "./sameName";
import type { RowRecord } from "../sheet/rowRecord";

/** A student as far as rows without a number are matched against. */
export interface KnownStudent {
  id: string;
  number: string;
  name: { given: string; family: string };
  /** Folded classes and teams. */
  places: Set<string>;
  /** Addresses of the guardians. */
  addresses: Set<string>;
}

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

function isSaidOther(
  record: RowRecord,
  student: KnownStudent,
  links: readonly PersonLink[],
): boolean {
  return links.some(
    ({ says, left, right }) =>
      says === "other" &&
      ((fitsStudent(record, left) && isOf(student, right)) ||
        (fitsStudent(record, right) && isOf(student, left))),
  );
}

interface Learnt {
  id: string;
  number: string;
  name: { given: string; family: string };
  places: () => readonly string[];
  addresses: () => readonly string[];
}

/** The students known so far, found by number, by name, and by any word of their name. */
class Students {
  private readonly byNumber = new Map<string, string>();
  /** Learnt, but not yet looked into: a roster with numbers alone never asks for a name. */
  private unread: Learnt[] = [];
  private readonly byId = new Map<string, KnownStudent>();
  private readonly byName = new Map<string, Set<string>>();
  private readonly namesByWord = new Map<string, Set<string>>();
  /** Names with an initial or a lost letter. */
  private readonly loose = new Set<string>();
  private absent: Map<string, KnownStudent[]> | undefined;

  learn(learnt: Learnt): void {
    if (learnt.number !== "") this.byNumber.set(learnt.number, learnt.id);
    this.unread.push(learnt);
  }

  private look(): void {
    for (const learnt of this.unread) this.take(learnt);
    this.unread = [];
  }

  private take({ id, number, name, places, addresses }: Learnt): void {
    let student = this.byId.get(id);
    if (student === undefined) {
      student = { id, number, name, places: new Set(), addresses: new Set() };
      this.byId.set(id, student);
    }
    if (number !== "") student.number = number;
    for (const place of places()) student.places.add(place);
    for (const address of addresses()) student.addresses.add(address);
    const key = nameKey(name);
    const namesakes = this.byName.get(key);
    if (namesakes !== undefined) {
      namesakes.add(id);
      return;
    }
    this.byName.set(key, new Set([id]));
    if (isLoose(name)) this.loose.add(key);
    for (const word of key.split(" ")) {
      const names = this.namesByWord.get(word);
      if (names === undefined) this.namesByWord.set(word, new Set([key]));
      else names.add(key);
    }
  }

  numbered(number: string): string {
    return this.byNumber.get(number) ?? `s-${hash(`number ${number}`)}`;
  }

  student(id: string): KnownStudent | undefined {
    this.look();
    return this.byId.get(id);
  }

  called(key: string): KnownStudent[] {
    this.look();
    return [...(this.byName.get(key) ?? [])].flatMap((id) => this.byId.get(id) ?? []);
  }

  /** Students whose name shares a word and could be the same person's. */
  nearly(name: { given: string; family: string }): KnownStudent[] {
    this.look();
    const key = nameKey(name);
    const isLooseHere = isLoose(name);
    const keys = new Set<string>();
    // Thousands may share a word: only those are compared in full that have a chance.
    for (const word of key.split(" "))
      for (const other of this.namesByWord.get(word) ?? [])
        if (isLooseHere || other === key || this.loose.has(other) || isOneSlip(key, other))
          keys.add(other);
    return [...keys]
      .flatMap((other) => this.called(other))
      .filter((student) => sameName(student.name, name));
  }

  /**
   * Students of one given name whose surname may have changed: a part of it stayed, or something else tells.
   *
   * @param present the names that stand in rows; who has one of them has not changed it
   */
  renamed(
    name: { given: string; family: string },
    present: ReadonlySet<string>,
    shows: (student: KnownStudent) => boolean,
  ): KnownStudent[] {
    this.look();
    const given = fold(name.given);
    const family = fold(name.family).split(" ");
    return given === ""
      ? []
      : (this.absentCalled(present).get(given) ?? []).filter(
          (student) =>
            fold(student.name.family)
              .split(" ")
              .some((word) => word.length > 2 && family.includes(word)) || shows(student),
        );
  }

  /** By their given names, those who stand in no row. Rows only bring more of those who do. */
  private absentCalled(present: ReadonlySet<string>): ReadonlyMap<string, KnownStudent[]> {
    if (this.absent !== undefined) return this.absent;
    this.absent = new Map<string, KnownStudent[]>();
    for (const student of this.byId.values()) {
      if (present.has(nameKey(student.name))) continue;
      const given = fold(student.name.given);
      this.absent.set(given, [...(this.absent.get(given) ?? []), student]);
    }
    return this.absent;
  }
}

/** Whether a name may stand for several: by an initial, or with a lost letter. */
function isLoose({ given, family }: { given: string; family: string }): boolean {
  return fold(given).length === 1 || `${given}${family}`.includes("?");
}

function match(
  record: RowRecord,
  known: Students,
  links: readonly PersonLink[],
  {
    present,
    isWritten,
  }: {
    present: ReadonlySet<string>;
    /** Whether the very source of the row writes a name elsewhere. */
    isWritten: (name: { given: string; family: string }) => boolean;
  },
): string | KnownStudent[] {
  const key = nameKey(record.name);
  const places = [...record.classes, ...record.teams].map(fold);
  const isOther = (student: KnownStudent): boolean => isSaidOther(record, student, links);
  const shows = (student: KnownStudent): boolean =>
    places.some((place) => student.places.has(place)) ||
    record.guardians.some(({ address }) => address !== undefined && student.addresses.has(address));
  const byGuardian = (student: KnownStudent): boolean =>
    record.guardians.some(({ address }) => address !== undefined && student.addresses.has(address));
  const areBothWritten = ({ name }: KnownStudent): boolean =>
    nameKey(name) !== key &&
    !hasLostLetters(record.name, name) &&
    isWritten(name) &&
    fold(record.name.given).length > 1 &&
    fold(name.given).length > 1;
  const namesakes = known.called(key);
  // A first name alone is many children's: only an address in common makes two rows one child.
  const byAddress = record.guardians.some(({ address }) => address !== undefined);
  const isNameless = fold(record.name.family) === "" && byAddress;
  const exact = namesakes.filter(
    (student) => !isOther(student) && (!isNameless || byGuardian(student)),
  );
  if (exact.length === 1) return exact[0]?.id ?? "";
  const fresh = `s-${hash(`name ${key} ${namesakes.length === 0 ? "" : [...places, ...(isNameless ? record.guardians.map(({ address = "" }) => address) : [])].join(" ")}`)}`;
  const candidates =
    exact.length > 0
      ? exact
      : isNameless
        ? []
        : known
            .nearly(record.name)
            // One sheet that writes both "Aino" and "Eino", of whom nothing is the same, means two children.
            .filter((student) => !isOther(student) && (shows(student) || !areBothWritten(student)));
  const shown = candidates.filter(shows);
  const [seen] = shown;
  // With a class or an address in common, they may be two sisters or one child written twice.
  if (seen !== undefined && shown.length === 1 && !areBothWritten(seen)) return seen.id;
  const [only] = candidates;
  if (candidates.length === 1 && only !== undefined && hasLostLetters(record.name, only.name))
    return only.id;
  if (candidates.length > 0) return candidates;
  // A surname that changed: only somebody who is in no row by the old one, and whom class or guardian speak for.
  const renamed = known
    .renamed(record.name, present, byGuardian)
    .filter((student) => !isOther(student) && shows(student));
  return renamed.length === 0 ? fresh : renamed;
}

function hasLostLetters(...names: readonly { given: string; family: string }[]): boolean {
  return names.some(({ given, family }) => `${given}${family}`.includes("?"));
}

function isOf(student: KnownStudent, mark: PersonMark): boolean {
  return student.number !== ""
    ? mark.numbers.includes(student.number)
    : mark.names.includes(nameKey(student.name));
}

/** The student whom somebody has said a row to be. */
function linkedTo(
  record: RowRecord,
  links: readonly PersonLink[],
  known: Students,
): string | undefined {
  for (const { says, left, right } of [...links].reverse()) {
    if (says !== "same") continue;
    const other = fitsStudent(record, left) ? right : fitsStudent(record, right) ? left : undefined;
    if (other === undefined) continue;
    const [number] = other.numbers;
    if (number !== undefined) return known.numbered(number);
    const named = other.names.flatMap((name) => known.called(name));
    const only =
      named.find(({ places }) => other.places.some((place) => places.has(place))) ?? named[0];
    if (only !== undefined) return only.id;
  }
  return undefined;
}

/** Two numbers that somebody has said to be one student go by the first. */
function followStudentLinks(
  ids: Map<RowRecord, string>,
  links: readonly PersonLink[],
): Map<RowRecord, string> {
  for (const { says, left, right } of links) {
    if (says !== "same" || left.numbers.length === 0 || right.numbers.length === 0) continue;
    const target = [...ids].find(([record]) => fitsStudent(record, left))?.[1];
    if (target === undefined) continue;
    for (const record of ids.keys()) if (fitsStudent(record, right)) ids.set(record, target);
  }
  return ids;
}
