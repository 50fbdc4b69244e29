import { message, type Message } from "@amigo/language/message";
import { faultForOutsiders } from "../address/faultSentence";
import type { KnownDomains } from "../address/learnDomains";
import { readAddress } from "../address/readAddress";
import { tidyLine } from "../text/tidy";
import { HOW_OFTEN, type FormContent, type FormWords, type HowOften } from "./form";

/** What a family has answered. */
export interface Answer {
  given: string;
  family: string;
  /** The names of a class and a team as they can be chosen; empty for none. */
  class: string;
  team: string;
  name: string;
  address: string;
  relationship: string;
  secondName: string;
  secondAddress: string;
  secondRelationship: string;
  howOften: HowOften;
  /** The answers to the further questions, in their order. */
  questions: string[];
  /** Which version of the consent was agreed to; 0 where the form asks for none. */
  consent: number;
}

/** What is wrong with one field; `proposal` is what was probably meant. */
export interface AnswerFault {
  field: string;
  fault:
    "missing" | "too long" | "not a choice" | "address" | "probably" | "same address" | "consent";
  sentence: Message;
  proposal?: string;
  /** Whether it could be sent to as it was written, should its writer insist. */
  canKeep?: boolean;
}

/** What can be chosen on the form. */
export interface FormChoices {
  classes: readonly string[];
  teams: readonly string[];
}

export type AnswerRead = { ok: true; answer: Answer } | { ok: false; faults: AnswerFault[] };

/** No house's domains: an address is looked at by its form alone. */
const NOBODY: KnownDomains = new Map();
const LONGEST = 120;
const LONGEST_TEXT = 1000;

/** What was sent, and the faults that are found while it is read. */
interface Sent {
  fields: Readonly<Record<string, string>>;
  known: KnownDomains;
  faults: AnswerFault[];
}

/**
 * Reads what was filled in, as a form sends it.
 *
 * @param fields the fields by their names; `keep.address` says that an address is right as it was written
 * @param known  the domains that the house's own addresses have
 * @returns the answer, or every fault with its field, in the order of the form
 */
export function readAnswer(
  fields: Readonly<Record<string, string>>,
  form: FormContent,
  words: FormWords,
  { classes, teams }: FormChoices,
  consentVersion: number,
  known: KnownDomains,
): AnswerRead {
  const sent: Sent = { fields, known, faults: [] };
  const has = (part: FormContent["parts"][number]): boolean => form.parts.includes(part);
  const answer: Answer = {
    given: readLine(sent, "given", { needed: true }),
    family: readLine(sent, "family", { needed: true }),
    class: has("class") ? readChoice(sent, "class", classes, classes.length > 0) : "",
    team: has("team") ? readChoice(sent, "team", teams, false) : "",
    name: readLine(sent, "name", { needed: true }),
    address: readAddressIn(sent, "address", true),
    relationship: has("relationship") ? readLine(sent, "relationship") : "",
    secondName: "",
    secondAddress: "",
    secondRelationship: "",
    howOften: has("how often")
      ? (HOW_OFTEN.find((candidate) => candidate === fields.howOften) ?? "every message")
      : "every message",
    questions: form.questions.map(({ required }, at) => {
      const choices = words.questions[at]?.choices ?? [];
      return choices.length > 0
        ? readChoice(sent, `question.${at}`, choices, required)
        : readLine(sent, `question.${at}`, { needed: required, longest: LONGEST_TEXT });
    }),
    consent: 0,
  };
  if (has("second guardian")) Object.assign(answer, readSecondGuardian(sent, answer.address));
  if (has("consent") && words.consent.trim() !== "")
    answer.consent = readConsent(sent, consentVersion);
  return sent.faults.length === 0
    ? { ok: true, answer }
    : { ok: false, faults: inOrder(sent.faults, form.questions.length) };
}

function readLine(
  { fields, faults }: Sent,
  field: string,
  { needed = false, longest = LONGEST } = {},
): string {
  const text = tidyLine(fields[field] ?? "");
  if (needed && text === "")
    faults.push({ field, fault: "missing", sentence: message("forms.pleaseFillThisIn") });
  if (text.length > longest)
    faults.push({
      field,
      fault: "too long",
      sentence: message("forms.thisIsLongerThanLetters", { longest }),
    });
  return text;
}

function readChoice(
  { fields, faults }: Sent,
  field: string,
  choices: readonly string[],
  needed: boolean,
): string {
  const text = (fields[field] ?? "").trim();
  if (text === "") {
    if (needed)
      faults.push({ field, fault: "missing", sentence: message("forms.pleaseChooseOne") });
    return "";
  }
  if (!choices.includes(text))
    faults.push({ field, fault: "not a choice", sentence: message("forms.thisCanNoLongerBe") });
  return text;
}

/** Reads an address. One that was probably mistyped is a fault, unless its writer says that it is right. */
function readAddressIn({ fields, known, faults }: Sent, field: string, needed: boolean): string {
  const written = fields[field] ?? "";
  if (written.trim() === "") {
    if (needed)
      faults.push({ field, fault: "missing", sentence: message("forms.pleaseFillThisIn") });
    return "";
  }
  const read = readAddress(written, known);
  if (read.answer === "clean") return read.address;
  const typed = written.trim().toLowerCase();
  if (read.answer === "unusable") {
    faults.push({
      field,
      fault: "address",
      sentence: message("forms.thisIsNoAddressThat", { read: faultForOutsiders(read) }),
    });
    return "";
  }
  const asWritten = readAddress(written, NOBODY);
  const canKeep = asWritten.answer === "clean";
  if (fields[`keep.${field}`] === typed && canKeep) return asWritten.address;
  faults.push({
    field,
    fault: "probably",
    sentence: faultForOutsiders(read),
    proposal: read.address,
    canKeep,
  });
  return "";
}

function readSecondGuardian(
  sent: Sent,
  firstAddress: string,
): Pick<Answer, "secondName" | "secondAddress" | "secondRelationship"> {
  const secondName = readLine(sent, "secondName");
  const secondAddress = readAddressIn(sent, "secondAddress", false);
  const secondRelationship = readLine(sent, "secondRelationship");
  if (secondAddress !== "" && secondAddress === firstAddress)
    sent.faults.push({
      field: "secondAddress",
      fault: "same address",
      sentence: message("forms.thisIsYourOwnAddress"),
    });
  if (secondAddress !== "" && secondName === "")
    sent.faults.push({
      field: "secondName",
      fault: "missing",
      sentence: message("forms.pleaseSayWhoseAddressThis"),
    });
  return { secondName, secondAddress, secondRelationship };
}

/** Returns the version of the words that were consented to; without consent it is a fault. */
function readConsent({ fields, faults }: Sent, version: number): number {
  if (fields.consent !== "yes")
    faults.push({
      field: "consent",
      fault: "consent",
      sentence: message("forms.withoutThisWeMayNot"),
    });
  return version;
}

/** Returns faults in the order of the form's fields. */
function inOrder(faults: readonly AnswerFault[], questions: number): AnswerFault[] {
  const order = [
    "given",
    "family",
    "class",
    "team",
    "name",
    "address",
    "relationship",
    "secondName",
    "secondAddress",
    "secondRelationship",
    ...Array.from({ length: questions }, (_, at) => `question.${at}`),
    "consent",
  ];
  return faults.toSorted((one, other) => order.indexOf(one.field) - order.indexOf(other.field));
}
