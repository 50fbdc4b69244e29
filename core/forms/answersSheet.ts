import type { ReadingPlan } from "../sheet/readTable";
import type { Answer } from "./readAnswer";
import { wordsIn, type FormContent } from "./form";

/** An answer that counts, as a row of its sheet. */
export interface CountedAnswer {
  /** When it was given, in the house's time: `2026-11-24 09:30:00`. */
  at: string;
  answer: Answer;
  /** Whether the second guardian has said that the address is theirs. */
  second: boolean;
}

type Column = ReadingPlan["columns"][number] & { cell: (row: CountedAnswer) => string };

const OFTEN = { "every message": "", daily: "daily", weekly: "weekly" } as const;

/** The answers to a form as a sheet, oldest first, with the plan by which it is read. What a form does not ask for has no column. */
export function answersSheet(
  form: FormContent,
  answers: readonly CountedAnswer[],
): { rows: string[][]; plan: ReadingPlan } {
  const words = wordsIn(form, "");
  const columns: Column[] = [
    { title: "Answered", meaning: "answered", slot: 0, cell: ({ at }) => at },
    { title: "First name", meaning: "student.given", slot: 0, cell: ({ answer }) => answer.given },
    { title: "Surname", meaning: "student.surname", slot: 0, cell: ({ answer }) => answer.family },
    ...(form.parts.includes("class")
      ? [
          {
            title: "Class",
            meaning: "classes" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) => answer.class,
          },
        ]
      : []),
    ...(form.parts.includes("team")
      ? [
          {
            title: "Team",
            meaning: "teams" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) => answer.team,
          },
        ]
      : []),
    { title: "Guardian", meaning: "guardian.name", slot: 1, cell: ({ answer }) => answer.name },
    {
      title: "Guardian's address",
      meaning: "guardian.address",
      slot: 1,
      cell: ({ answer }) => answer.address,
    },
    ...(form.parts.includes("relationship")
      ? [
          {
            title: "Relationship",
            meaning: "guardian.relationship" as const,
            slot: 1,
            cell: ({ answer }: CountedAnswer) => answer.relationship,
          },
        ]
      : []),
    ...(form.parts.includes("second guardian")
      ? [
          {
            title: "Second guardian",
            meaning: "guardian.name" as const,
            slot: 2,
            cell: ({ answer, second }: CountedAnswer) => (second ? answer.secondName : ""),
          },
          {
            title: "Second guardian's address",
            meaning: "guardian.address" as const,
            slot: 2,
            cell: ({ answer, second }: CountedAnswer) => (second ? answer.secondAddress : ""),
          },
          {
            title: "Second relationship",
            meaning: "guardian.relationship" as const,
            slot: 2,
            cell: ({ answer, second }: CountedAnswer) => (second ? answer.secondRelationship : ""),
          },
        ]
      : []),
    ...form.questions.map((_, at) => ({
      title: words.questions[at]?.title ?? `Question ${at + 1}`,
      meaning: "detail" as const,
      slot: at + 1,
      cell: ({ answer }: CountedAnswer) => answer.questions[at] ?? "",
    })),
    ...(form.parts.includes("how often")
      ? [
          {
            title: "How often",
            meaning: "unread" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) => OFTEN[answer.howOften],
          },
        ]
      : []),
    ...(form.parts.includes("consent")
      ? [
          {
            title: "Consent",
            meaning: "unread" as const,
            slot: 0,
            cell: ({ answer }: CountedAnswer) =>
              answer.consent === 0 ? "" : `version ${answer.consent}`,
          },
        ]
      : []),
  ];
  return {
    rows: [
      columns.map(({ title }) => title),
      ...answers.map((row) => columns.map(({ cell }) => cell(row))),
    ],
    plan: {
      sheet: "Text",
      headerRow: 0,
      columns: columns.map(({ title, meaning, slot }) => ({ title, meaning, slot })),
    },
  };
}
