import { say } from "@amigo/language/say";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Fact } from "../facts/fact";
import { factKey } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import { readAll } from "../sheet/readAll";
import { readTables } from "../sheet/readTable";
import { answersSheet } from "./answersSheet";
import {
  formIsOpen,
  labelOf,
  languageFor,
  wordsForReader,
  wordsIn,
  type FormContent,
} from "./form";
import {
  confirmAnswerNote as confirmAnswerNoteUnsaid,
  decidedAnswerNote as decidedAnswerNoteUnsaid,
  secondGuardianNote as secondGuardianNoteUnsaid,
} from "./formNotes";
import { placeAnswer as placeAnswerUnsaid } from "./placeAnswer";
import { readAnswer as readAnswerUnsaid, type Answer } from "./readAnswer";
import { spoken } from "../testing/spoken";

const readAnswer = spoken(readAnswerUnsaid);
const placeAnswer = spoken(placeAnswerUnsaid);

const confirmAnswerNote = spoken(confirmAnswerNoteUnsaid);
const decidedAnswerNote = spoken(decidedAnswerNoteUnsaid);
const secondGuardianNote = spoken(secondGuardianNoteUnsaid);

const FORM: FormContent = {
  parts: ["class", "team", "relationship", "second guardian", "how often", "consent"],
  cohorts: [],
  questions: [{ required: true }, { required: false }],
  unknownChild: "ask",
  opensOn: "2026-09-01",
  closesOn: "2026-10-31",
  words: [
    {
      language: "en",
      title: "Autumn",
      intro: "",
      consent: "Yes.",
      labels: {},
      questions: [
        { title: "Size", choices: ["small", "large"] },
        { title: "Anything else", choices: [] },
      ],
    },
    {
      language: "de-CH",
      title: "Herbst",
      intro: "",
      consent: "Ja.",
      labels: { send: " Los ", given: "" },
      questions: [
        { title: "Grösse", choices: ["klein", "gross"] },
        { title: "Sonst", choices: [] },
      ],
    },
  ],
};
const WORDS = wordsIn(FORM, "en");
const CHOICES = { classes: ["Trapeze Two", "Wire Walk"], teams: ["Night Parade"] };
const FIELDS: Record<string, string> = {
  given: " Ida ",
  family: "Brandt",
  class: "Wire Walk",
  team: "",
  name: "Halim Brandt",
  address: "Halim@Oakmail.example ",
  relationship: "father",
  secondName: "",
  secondAddress: "",
  secondRelationship: "",
  "question.0": "small",
  "question.1": "",
  howOften: "daily",
  consent: "yes",
};
const read = (fields: Record<string, string>, form = FORM) =>
  readAnswer({ ...FIELDS, ...fields }, form, WORDS, CHOICES, 3, new Map([["oakmail.example", 50]]));
const faultsOf = (fields: Record<string, string>) => {
  const answer = read(fields);
  return answer.ok ? [] : answer.faults.map(({ field, fault }) => `${field}: ${fault}`);
};

describe("what a family fills in", () => {
  test("is read tidy", () => {
    expect(read({})).toEqual({
      ok: true,
      answer: {
        given: "Ida",
        family: "Brandt",
        class: "Wire Walk",
        team: "",
        name: "Halim Brandt",
        address: "halim@oakmail.example",
        relationship: "father",
        secondName: "",
        secondAddress: "",
        secondRelationship: "",
        howOften: "daily",
        questions: ["small", ""],
        consent: 3,
      },
    });
  });

  test.each<[string, Record<string, string>, string[]]>([
    [
      "nothing at all",
      Object.fromEntries(Object.keys(FIELDS).map((field) => [field, ""])),
      [
        "given: missing",
        "family: missing",
        "class: missing",
        "name: missing",
        "address: missing",
        "question.0: missing",
        "consent: consent",
      ],
    ],
    ["a class that is gone", { class: "Flying" }, ["class: not a choice"]],
    ["a slip in the domain", { address: "halim@oakmial.example" }, ["address: probably"]],
    ["a comma for a dot", { address: "halim@oakmail,example" }, ["address: probably"]],
    ["no address", { address: "halim" }, ["address: address"]],
    [
      "the same address twice",
      { secondName: "Ana", secondAddress: "halim@oakmail.example" },
      ["secondAddress: same address"],
    ],
    [
      "a second address of nobody",
      { secondAddress: "ana@oakmail.example" },
      ["secondName: missing"],
    ],
    ["a name longer than any", { given: "x".repeat(121) }, ["given: too long"]],
  ])("is told at its fields: %s", (_, fields, faults) => expect(faultsOf(fields)).toEqual(faults));

  test("is taken as written where its writer insists and mail could go there", () => {
    const slip = "halim@oakmial.example";
    const asked = read({ address: slip });
    expect(
      asked.ok ? [] : asked.faults.map(({ proposal, canKeep }) => [proposal, canKeep]),
    ).toEqual([["halim@oakmail.example", true]]);
    expect(read({ address: slip, "keep.address": slip })).toMatchObject({
      ok: true,
      answer: { address: slip },
    });
    expect(
      faultsOf({ address: "halim@oakmail,example", "keep.address": "halim@oakmail,example" }),
    ).toEqual(["address: probably"]);
  });

  test("whatever it is, has an answer or faults, and no answer without an address", () => {
    fc.assert(
      fc.property(
        fc.dictionary(
          fc.constantFrom(...Object.keys(FIELDS), "keep.address", "x"),
          fc.oneof(
            fc.string({ unit: "grapheme" }),
            fc.constantFrom("a@b.example", "yes", "Wire Walk", "\r\nBcc: x"),
          ),
        ),
        (fields) => {
          const answer = read(fields);
          if (answer.ok) {
            expect(answer.answer.address).toMatch(/^[^\s@]+@[^\s@]+$/u);
            expect(`${answer.answer.given}${answer.answer.name}`).not.toMatch(/[\r\n]/);
          } else expect(answer.faults.length).toBeGreaterThan(0);
        },
      ),
    );
  });
});

const fact = (subject: string, kind: string, ref = "", value: unknown = "") =>
  ({ subject, kind, ref, value, origin: { from: "rule", rule: "convention" } }) as Fact;
const HOUSE = indexFacts(
  new Map(
    [
      fact("class:trapeze two", "cohort", "", {
        name: "Trapeze Two",
        kind: "class",
        site: "",
        coach: "",
      }),
      fact("class:wire walk", "cohort", "", {
        name: "Wire Walk",
        kind: "class",
        site: "",
        coach: "",
      }),
      fact("s-1", "student"),
      fact("s-1", "name", "", { given: "Ida", family: "Brandt" }),
      fact("s-1", "enrolment", "class:trapeze two"),
      fact("g-1", "guardian"),
      fact("g-1", "name", "", { given: "Halim", family: "Brandt" }),
      fact("g-1", "tie", "s-1", "father"),
      fact("g-1", "address", "halim@oakmail.example"),
      fact("s-2", "student"),
      fact("s-2", "name", "", { given: "Wren", family: "Holm" }),
      fact("s-2", "enrolment", "class:wire walk"),
      ...["s-3", "s-4"].flatMap((id) => [
        fact(id, "student"),
        fact(id, "name", "", { given: "Una", family: "Quist" }),
        fact(id, "enrolment", id === "s-3" ? "class:wire walk" : "class:trapeze two"),
      ]),
    ].map((eachFact) => [factKey(eachFact), eachFact]),
  ),
);
const place = (answer: Partial<Answer>, isFamily = false, unknownChild: "ask" | "take" = "ask") =>
  placeAnswer(
    {
      given: "Ida",
      family: "Brandt",
      class: "",
      name: "Halim Brandt",
      address: "halim@oakmail.example",
      ...answer,
    },
    HOUSE,
    { unknownChild },
    isFamily,
  );

describe("what becomes of an answer", () => {
  test.each<[string, Partial<Answer>, "accepted" | "asked" | "held", string]>([
    ["the guardian's own address", {}, "accepted", ""],
    ["names the other way round", { given: "BRANDT", family: "ida" }, "accepted", ""],
    [
      "a child nobody speaks for",
      { given: "Wren", family: "Holm", name: "Tove", address: "t@lettr.example" },
      "accepted",
      "",
    ],
    [
      "another address of a guardian",
      { address: "new@oakmail.example" },
      "held",
      "Halim Brandt is known with another address",
    ],
    [
      "somebody else for the child",
      { name: "Mallory", address: "m@oakmail.example" },
      "held",
      "Halim Brandt speaks for Ida Brandt already. May Mallory as well?",
    ],
    ["a slip in the name", { given: "Idda" }, "asked", "Was Ida Brandt meant?"],
    [
      "a child that no sheet has",
      { given: "Zoe", family: "Nowhere" },
      "asked",
      "Is this a new child?",
    ],
    [
      "two of one name",
      { given: "Una", family: "Quist" },
      "asked",
      "There are 2 children called Una Quist",
    ],
    [
      "two of one name, told apart by class",
      { given: "Una", family: "Quist", class: "Wire Walk" },
      "accepted",
      "",
    ],
  ])("%s", (_, answer, path, why) => {
    const placed = place(answer);
    expect(placed.path).toBe(path);
    expect(placed.why ?? "").toContain(why);
  });

  test("a family's own link or code speaks for the child; new children are taken where the form says so", () => {
    expect(place({ name: "Mallory", address: "m@oakmail.example" }, true).path).toBe("accepted");
    expect(place({ given: "Zoe", family: "Nowhere" }, false, "take").path).toBe("accepted");
    expect(place({ given: "Zoe", family: "Nowhere" }, true).path).toBe("asked");
  });
});

test("answers as a sheet are read again as what they say, the second guardian only once confirmed", () => {
  const given = read({ secondName: "Ana Brandt", secondAddress: "ana@lettr.example" });
  if (!given.ok) throw new Error("not read");
  for (const second of [false, true]) {
    const { rows, plan } = answersSheet(
      FORM,
      [{ at: "2026-09-02 10:00:00", answer: given.answer, second }],
      say,
    );
    const tables = readTables(
      { format: "text", sheets: [{ name: "Text", hidden: false, rows, joined: [] }] },
      plan,
    );
    if (!tables.ok) throw new Error(say(tables.fault.sentence));
    const {
      records: [record],
    } = readAll(tables.tables);
    expect(record).toMatchObject({
      name: { given: "Ida", family: "Brandt" },
      classes: ["Wire Walk"],
      details: [{ column: "Size", slot: 1, value: "small" }],
    });
    expect(record?.guardians.flatMap(({ address }) => address ?? [])).toEqual(
      second ? ["halim@oakmail.example", "ana@lettr.example"] : ["halim@oakmail.example"],
    );
  }
});

describe("a form", () => {
  test.each([
    ["2026-08-31", "not yet"],
    ["2026-09-01", "open"],
    ["2026-10-31", "open"],
    ["2026-11-01", "over"],
  ])("on %s is %s", (day, is) => expect(formIsOpen(FORM, day)).toBe(is));
  test.each([
    ["de", "de-CH"],
    ["fr, de-AT;q=0.5, en;q=0.1", "de-CH"],
    ["en-GB", "en"],
    ["fr", "en"],
    ["", "en"],
    ["de;q=0, en", "en"],
    [";;q=,", "en"],
  ])("for %s speaks %s", (accept, language) => expect(languageFor(FORM, accept)).toBe(language));

  const ENGLISH = wordsIn(FORM, "en");
  const ITALIAN = { words: [ENGLISH, { ...ENGLISH, language: "it", title: "Iscrizione" }] };
  test.each([
    // What the form is written in is kept, also where Amigo has no words of its own in it.
    ["it-IT,it;q=0.9,en;q=0.8", "it", "Iscrizione"],
    ["it", "it", "Iscrizione"],
    ["pl, it;q=0.5", "pl", "Iscrizione"],
    ["ar,en-US;q=0.9,en;q=0.8", "ar", ENGLISH.title],
    ["pt, sv", "en", ENGLISH.title],
  ])("written in English and Italian is for %s in %s", (accept, language, title) => {
    const words = wordsForReader(ITALIAN, "", accept);
    expect([words.language, words.title]).toEqual([language, title]);
    // The language that is sent with the answer leads to the same words.
    expect(wordsForReader(ITALIAN, words.language, accept)).toEqual(words);
  });
  test("says what the house has written, and what Amigo has else", () => {
    const german = wordsIn(FORM, "de");
    expect([
      say(labelOf(german, "send")),
      say(labelOf(german, "given")),
      say(labelOf(german, "didYouMean", { address: "a@b.example" })),
    ]).toEqual(["Los", "Child's first name", "Did you mean a@b.example?"]);
  });
  test("writes mails of one line a field", () => {
    const told = {
      house: "Copperwheel",
      title: "A\r\nBcc: x@y.example",
      child: "Ida\nBrandt",
      url: "http://localhost/f/mine/x",
    };
    for (const { subject, text } of [
      confirmAnswerNote(told),
      secondGuardianNote(told),
      decidedAnswerNote(told, true),
      decidedAnswerNote(told, false),
    ]) {
      expect(subject).not.toMatch(/[\r\n]/);
      expect(text).not.toMatch(/^Bcc:/m);
    }
    for (const { text } of [confirmAnswerNote(told), secondGuardianNote(told)])
      expect(text).not.toContain("Brandt");
  });
});
