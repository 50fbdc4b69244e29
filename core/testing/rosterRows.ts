import { said } from "@amigo/language/say";
import type { Facts } from "../facts/fact";
import { nameOf } from "../facts/factIndex";
import { indexFacts } from "../facts/indexFacts";
import { deriveFacts, type DeriveSettings } from "../identity/deriveFacts";
import type { SourceRecords } from "../identity/sourceRecords";
import type { RowRecord } from "../sheet/rowRecord";

interface Guardian {
  name: string;
  address?: string;
}

/** Takes a name of two words apart. */
export const split = (name: string) => ({
  given: name.split(" ")[0] ?? "",
  family: name.split(" ").slice(1).join(" "),
});

/** A row about a student as it is read from a sheet. */
export function row(
  at: number,
  name: string,
  number: string,
  place: string,
  guardians: Guardian[],
  overrides: Partial<RowRecord> = {},
): RowRecord {
  return {
    sheet: "Sheet",
    row: at,
    number,
    name: split(name),
    level: "",
    site: "",
    classes: place === "" ? [] : [place],
    teams: [],
    coach: "",
    address: undefined,
    answered: "",
    guardians: guardians.map((guardian, index) => ({
      slot: index + 1,
      name: split(guardian.name),
      address: guardian.address,
      written: guardian.address ?? "",
      column: 5,
      relationship: "",
    })),
    ...overrides,
  };
}

/** A source by its name, with its rows. */
export const source = (name: string, ...records: RowRecord[]): SourceRecords => ({
  source: name,
  reading: name,
  records,
});

/** Derives what some sources say, with its questions in words. */
export function derive(
  sources: SourceRecords[],
  settings: Partial<DeriveSettings> = {},
  stand: Facts = new Map(),
) {
  const { facts, questions: asked } = deriveFacts(sources, stand, {
    studentAddress: "",
    ...settings,
  });
  const questions = asked.map((question) => said(question));
  const index = indexFacts(facts);
  const people = [...index.people.values()]
    .map((person) => `${nameOf(person)} ${[...person.addresses].sort().join(" ")}`.trim())
    .sort();
  return { facts, questions, index, people };
}
