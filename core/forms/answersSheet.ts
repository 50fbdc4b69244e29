import { message, written, type Message } from "@amigo/language/message";
import type { Answer } from "./readAnswer";
import { wordsIn, type FormContent } from "./form";
import type { ReadingPlan } from "../sheet/table";

/** An answer that counts, as a row of its sheet. */
export interface CountedAnswer {
  /** When it was given, in the house's time: `2026-11-24 09:30:00`. */
  at: string;
  answer: Answer;
  /** Whether the second guardian has said that the address is theirs. */
  second: boolean;
}

type Column = Omit<ReadingPlan["columns"][number], "title"> & {
  title: Message;
  cell: (row: CountedAnswer) => string;
};

const OFTEN = { "every message": "", daily: "daily", weekly: "weekly" } as const;

/** The columns for the child and the guardian. A form that doesn't ask for the `part` of a column has no such column. */
const PERSON_COLUMNS: readonly (Column & { part?: FormContent["parts"][number] })[] = [
  { title: message("forms.columnAnswered"), meaning: "answered", slot: 0, cell: ({ at }) => at },
  {
    title: message("forms.columnFirstName"),
    meaning: "student.given",
    slot: 0,
    cell: ({ answer }) => answer.given,
  },
  {
    title: message("forms.columnSurname"),
    meaning: "student.surname",
    slot: 0,
    cell: ({ answer }) => answer.family,
  },
  {
    part: "class",
    title: message("forms.columnClass"),
    meaning: "classes",
    slot: 0,
    cell: ({ answer }) => answer.class,
  },
  {
    part: "team",
    title: message("forms.columnTeam"),
    meaning: "teams",
    slot: 0,
    cell: ({ answer }) => answer.team,
  },
  {
    title: message("forms.columnGuardian"),
    meaning: "guardian.name",
    slot: 1,
    cell: ({ answer }) => answer.name,
  },
  {
    title: message("forms.columnGuardianAddress"),
    meaning: "guardian.address",
    slot: 1,
    cell: ({ answer }) => answer.address,
  },
  {
    part: "relationship",
    title: message("forms.columnRelationship"),
    meaning: "guardian.relationship",
    slot: 1,
    cell: ({ answer }) => answer.relationship,
  },
  {
    part: "second guardian",
    title: message("forms.columnSecondGuardian"),
    meaning: "guardian.name",
    slot: 2,
    cell: ({ answer, second }) => (second ? answer.secondName : ""),
  },
  {
    part: "second guardian",
    title: message("forms.columnSecondAddress"),
    meaning: "guardian.address",
    slot: 2,
    cell: ({ answer, second }) => (second ? answer.secondAddress : ""),
  },
  {
    part: "second guardian",
    title: message("forms.columnSecondRelationship"),
    meaning: "guardian.relationship",
    slot: 2,
    cell: ({ answer, second }) => (second ? answer.secondRelationship : ""),
  },
];

/** The columns after the form's questions, which no import reads. */
const LAST_COLUMNS: readonly (Column & { part: FormContent["parts"][number] })[] = [
  {
    part: "how often",
    title: message("forms.columnHowOften"),
    meaning: "unread",
    slot: 0,
    cell: ({ answer }) => OFTEN[answer.howOften],
  },
  {
    part: "consent",
    title: message("forms.columnConsent"),
    meaning: "unread",
    slot: 0,
    cell: ({ answer }) => (answer.consent === 0 ? "" : String(answer.consent)),
  },
];

/**
 * Returns the answers to a form as a sheet, oldest first, with the plan by which it is read. What a form does not ask for has
 * no column.
 *
 * @param say gives the titles of the columns their words
 */
export function answersSheet(
  form: FormContent,
  answers: readonly CountedAnswer[],
  say: (title: Message) => string,
): { rows: string[][]; plan: ReadingPlan } {
  const columns = columnsOf(form);
  return {
    rows: [
      columns.map(({ title }) => say(title)),
      ...answers.map((row) => columns.map(({ cell }) => cell(row))),
    ],
    plan: {
      sheet: "Text",
      headerRow: 0,
      columns: columns.map(({ title, meaning, slot }) => ({ title: say(title), meaning, slot })),
    },
  };
}

function columnsOf(form: FormContent): Column[] {
  const words = wordsIn(form, "");
  const isAsked = ({ part }: { part?: FormContent["parts"][number] }): boolean =>
    part === undefined || form.parts.includes(part);
  const questions = form.questions.map((_, at): Column => ({
    title: written(words.questions[at]?.title ?? ""),
    meaning: "detail",
    slot: at + 1,
    cell: ({ answer }) => answer.questions[at] ?? "",
  }));
  return [...PERSON_COLUMNS.filter(isAsked), ...questions, ...LAST_COLUMNS.filter(isAsked)];
}
