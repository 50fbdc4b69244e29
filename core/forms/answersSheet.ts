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
  const words = wordsIn(form, "");
  const columns: Column[] = [
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
    ...(form.parts.includes("class")
      ? [
          {
            title: message("forms.columnClass"),
            meaning: "classes" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) => answer.class,
          },
        ]
      : []),
    ...(form.parts.includes("team")
      ? [
          {
            title: message("forms.columnTeam"),
            meaning: "teams" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) => answer.team,
          },
        ]
      : []),
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
    ...(form.parts.includes("relationship")
      ? [
          {
            title: message("forms.columnRelationship"),
            meaning: "guardian.relationship" as const,
            slot: 1,
            cell: ({ answer }: CountedAnswer) => answer.relationship,
          },
        ]
      : []),
    ...(form.parts.includes("second guardian")
      ? [
          {
            title: message("forms.columnSecondGuardian"),
            meaning: "guardian.name" as const,
            slot: 2,
            cell: ({ answer, second }: CountedAnswer) => (second ? answer.secondName : ""),
          },
          {
            title: message("forms.columnSecondAddress"),
            meaning: "guardian.address" as const,
            slot: 2,
            cell: ({ answer, second }: CountedAnswer) => (second ? answer.secondAddress : ""),
          },
          {
            title: message("forms.columnSecondRelationship"),
            meaning: "guardian.relationship" as const,
            slot: 2,
            cell: ({ answer, second }: CountedAnswer) => (second ? answer.secondRelationship : ""),
          },
        ]
      : []),
    ...form.questions.map((_, at) => ({
      title: written(words.questions[at]?.title ?? ""),
      meaning: "detail" as const,
      slot: at + 1,
      cell: ({ answer }: CountedAnswer) => answer.questions[at] ?? "",
    })),
    ...(form.parts.includes("how often")
      ? [
          {
            title: message("forms.columnHowOften"),
            meaning: "unread" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) => OFTEN[answer.howOften],
          },
        ]
      : []),
    ...(form.parts.includes("consent")
      ? [
          {
            title: message("forms.columnConsent"),
            meaning: "unread" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) =>
              answer.consent === 0 ? "" : String(answer.consent),
          },
        ]
      : []),
  ];
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
