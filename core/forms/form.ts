import { acceptedTags, familyLanguage } from "@amigo/language/families";
import { message, written, type CoreTextId, type Message } from "@amigo/language/message";

/** The parts that a form can have beside the child, its guardian and the guardian's address, which it always has. */
export const FORM_PARTS = [
  "class",
  "team",
  "relationship",
  "second guardian",
  "how often",
  "consent",
] as const;

export type FormPart = (typeof FORM_PARTS)[number];

/** How often a family wants mail: every message, or put together. */
export const HOW_OFTEN = ["every message", "daily", "weekly"] as const;

export type HowOften = (typeof HOW_OFTEN)[number];

/** Everything on a form that the house can say in its own words, with the text that is used where it does not. */
export const FORM_LABELS = {
  given: "forms.labelGiven",
  family: "forms.labelFamily",
  class: "forms.labelClass",
  team: "forms.labelTeam",
  name: "forms.labelName",
  address: "forms.labelAddress",
  relationship: "forms.labelRelationship",
  secondName: "forms.labelSecondName",
  secondAddress: "forms.labelSecondAddress",
  secondRelationship: "forms.labelSecondRelationship",
  howOften: "forms.labelHowOften",
  each: "forms.labelEach",
  daily: "forms.labelDaily",
  weekly: "forms.labelWeekly",
  choose: "forms.labelChoose",
  optional: "forms.labelOptional",
  send: "forms.labelSend",
  lookOver: "forms.labelLookOver",
  mend: "forms.labelMend",
  didYouMean: "forms.labelDidYouMean",
  keep: "forms.labelKeep",
  sent: "forms.labelSent",
  sentMore: "forms.labelSentMore",
  thanks: "forms.labelThanks",
  thanksMore: "forms.labelThanksMore",
} as const satisfies Record<string, CoreTextId>;

export type FormLabel = keyof typeof FORM_LABELS;

/** A form's words in one language. */
export interface FormWords {
  /** As BCP 47 has it: `en`, `de`, `pt-BR`. */
  language: string;
  title: string;
  intro: string;
  consent: string;
  /** The house's own words for what stands on the form; what is left out or empty is as Amigo has it. */
  labels: Partial<Record<FormLabel, string>>;
  /** Titles and choices of the further questions, in the order of the form. */
  questions: { title: string; choices: string[] }[];
}

/** A further question: free text, or one of a few choices. */
export interface FormQuestion {
  required: boolean;
}

/** What makes a form what it is. */
export interface FormContent {
  parts: FormPart[];
  /** Keys of the classes and teams that can be chosen; empty for all of the season. */
  cohorts: string[];
  questions: FormQuestion[];
  /** The words, the first language being the one that is used where no other fits. */
  words: FormWords[];
  /** What becomes of an answer for a child that stands in no sheet: a person looks, or it is taken as a new child. */
  unknownChild: "ask" | "take";
  /** The first and the last day on which it can be filled in, as calendar dates; empty for no end. */
  opensOn: string;
  closesOn: string;
}

/** How many further questions a form can have: as many as a sheet can have further columns. */
export const MOST_QUESTIONS = 9;

const NO_WORDS: FormWords = {
  language: "en",
  title: "",
  intro: "",
  consent: "",
  labels: {},
  questions: [],
};

/** The words of a form in the language that is asked for, or in the first one where it has none of it. */
export function wordsIn(form: Pick<FormContent, "words">, wanted: string): FormWords {
  return wordsFound(form, wanted) ?? form.words[0] ?? NO_WORDS;
}

/** The words of a form in a language, or in another kind of the same (`pt` for `pt-BR`); undefined where it has none. */
function wordsFound(form: Pick<FormContent, "words">, wanted: string): FormWords | undefined {
  const asked = wanted.toLowerCase();
  const [base] = asked.split("-");
  return (
    form.words.find(({ language }) => language.toLowerCase() === asked) ??
    form.words.find(({ language }) => language.toLowerCase().split("-")[0] === base)
  );
}

/** The best language of a form for a browser: the first that it asks for and the form is written in, else the form's first. */
export function languageFor(form: Pick<FormContent, "words">, accept: string): string {
  for (const tag of acceptedTags(accept)) {
    const found = wordsFound(form, tag);
    if (found !== undefined) return found.language;
  }
  return form.words[0]?.language ?? "en";
}

/**
 * Returns the words of a form for a reader, in the first of their languages in which the form is written or Amigo has words of
 * its own. In the second case the form's own text is in the language that fits them best.
 *
 * @param asked the language that they have chosen; empty for none
 * @param accept what their browser asks for, as Accept-Language
 */
export function wordsForReader(
  form: Pick<FormContent, "words">,
  asked: string,
  accept: string,
): FormWords {
  const best = wordsIn(form, languageFor(form, accept));
  for (const tag of [...(asked === "" ? [] : [asked]), ...acceptedTags(accept)]) {
    const words = wordsFound(form, tag);
    if (words !== undefined) return words;
    const language = familyLanguage(tag);
    if (language !== undefined) return { ...best, language };
  }
  return best;
}

/** Returns one label, in the house's words or in Amigo's, with its places filled. */
export function labelOf(
  words: FormWords,
  label: FormLabel,
  places: Record<string, string> = {},
): Message {
  const typed = words.labels[label]?.trim() ?? "";
  return typed === ""
    ? message(FORM_LABELS[label], places)
    : written(typed.replace(/\{(\w+)\}/g, (all, place: string) => places[place] ?? all));
}

/** Whether a form can be filled in on a day, as calendar dates. */
export function formIsOpen(
  { opensOn, closesOn }: Pick<FormContent, "opensOn" | "closesOn">,
  today: string,
): "open" | "not yet" | "over" {
  if (opensOn !== "" && today < opensOn) return "not yet";
  return closesOn !== "" && today > closesOn ? "over" : "open";
}
