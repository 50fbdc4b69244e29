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

/** Everything on a form that the house can say in its own words, with the words that stand there else. */
export const FORM_LABELS = {
  given: "Child's first name",
  family: "Child's surname",
  class: "Class",
  team: "Team, if the child is in one",
  name: "Your name",
  address: "Your email address",
  relationship: "What you are to the child, such as mother, father or aunt",
  secondName: "Name of a second guardian, if there is one",
  secondAddress: "Their email address",
  secondRelationship: "What they are to the child",
  howOften: "How often would you like mail?",
  each: "Every message as it comes",
  daily: "Put together, once a day",
  weekly: "Put together, once a week",
  choose: "Choose one",
  optional: "can stay empty",
  send: "Send",
  lookOver: "That was quick. Please look over what you have written, then send it.",
  mend: "Some of this needs a second look",
  didYouMean: "Did you mean {address}?",
  keep: "No, {address} is right as I wrote it",
  sent: "Look in your mailbox",
  sentMore:
    "We have sent a mail to {address}. Open it and press the link: your answer counts from then on. If nothing comes within a few minutes, look among unwanted mail, or fill this in once more.",
  thanks: "Thank you",
  thanksMore:
    "Your answer is with us. You can change it at any time by the link in the mail that you got.",
} as const;

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

/** The words of a form in the language that is asked for, or in the one nearest to it. */
export function wordsIn(form: Pick<FormContent, "words">, wanted: string): FormWords {
  const asked = wanted.toLowerCase();
  const base = asked.split("-")[0] ?? "";
  const found =
    form.words.find(({ language }) => language.toLowerCase() === asked) ??
    form.words.find(({ language }) => language.toLowerCase().split("-")[0] === base) ??
    form.words[0];
  return (
    found ?? { language: "en", title: "Sign up", intro: "", consent: "", labels: {}, questions: [] }
  );
}

/** The best language for a browser: RFC 9110, section 12.5.4. */
export function languageFor(form: Pick<FormContent, "words">, accept: string): string {
  const wanted = accept
    .split(",")
    .map((part) => {
      const [tag = "", quality = ""] = part.trim().split(";q=");
      return { tag: tag.trim().toLowerCase(), weight: quality === "" ? 1 : Number(quality) || 0 };
    })
    .filter(({ tag, weight }) => tag !== "" && weight > 0)
    .sort((one, other) => other.weight - one.weight);
  for (const { tag } of wanted) {
    const found = form.words.find(
      ({ language }) =>
        language.toLowerCase() === tag ||
        language.toLowerCase().split("-")[0] === tag.split("-")[0],
    );
    if (found !== undefined) return found.language;
  }
  return form.words[0]?.language ?? "en";
}

/** One label, in the house's words or in Amigo's, its parts filled in. */
export function labelOf(
  words: FormWords,
  label: FormLabel,
  parts: Record<string, string> = {},
): string {
  const own = words.labels[label]?.trim() ?? "";
  return (own === "" ? FORM_LABELS[label] : own).replace(
    /\{(\w+)\}/g,
    (all, part: string) => parts[part] ?? all,
  );
}

/** Whether a form can be filled in on a day, as calendar dates. */
export function formIsOpen(
  { opensOn, closesOn }: Pick<FormContent, "opensOn" | "closesOn">,
  today: string,
): "open" | "not yet" | "over" {
  if (opensOn !== "" && today < opensOn) return "not yet";
  return closesOn !== "" && today > closesOn ? "over" : "open";
}
