import { fold } from "../text/fold";
import { hash } from "../text/hash";
import { isOneSlip } from "../text/slip";
import { nameKey, sameName } from "./sameName";

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

interface Learnt {
  id: string;
  number: string;
  name: { given: string; family: string };
  places: () => readonly string[];
  addresses: () => readonly string[];
}

/** The students known so far, found by number, by name, and by any word of their name. */
export class Students {
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
