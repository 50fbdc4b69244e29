import * as z from "zod";
import {
  FORM_LABELS,
  FORM_PARTS,
  HOW_OFTEN,
  MOST_QUESTIONS,
  type FormLabel,
} from "@amigo/core/forms/form";
import { endpoint, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";
import { CountedNumber } from "./countedNumber";

const Text = (longest: number) => z.string().max(longest);
const LABELS = Object.keys(FORM_LABELS) as [FormLabel, ...FormLabel[]];
const Day = z.union([z.iso.date(), z.literal("")]);

export const FormWordsShape = z
  .object({
    language: z
      .string()
      .regex(/^[a-zA-Z]{2,3}(-[a-zA-Z0-9]{2,8})*$/, wrong("input.writeALanguageAsItsCode")),
    title: z.string().trim().min(1, wrong("input.giveTheFormATitle")).max(120),
    intro: Text(2000),
    consent: Text(2000),
    labels: z.partialRecord(z.enum(LABELS), Text(400)),
    questions: z
      .array(
        z.object({
          title: z.string().trim().min(1, wrong("input.writeTheQuestion")).max(200),
          choices: z.array(z.string().trim().min(1).max(120)).max(30),
        }),
      )
      .max(MOST_QUESTIONS),
  })
  .meta({ id: "FormWords" });

/** What makes a form what it is. Every language has the same questions, with as many choices. */
export const FormContentShape = z
  .object({
    parts: z.array(z.enum(FORM_PARTS)).max(FORM_PARTS.length),
    cohorts: z.array(z.string().max(200)).max(500),
    questions: z.array(z.object({ required: z.boolean() })).max(MOST_QUESTIONS),
    words: z.array(FormWordsShape).min(1).max(12),
    unknownChild: z.enum(["ask", "take"]),
    opensOn: Day,
    closesOn: Day,
  })
  .refine(
    ({ words, questions }) => words.every((word) => word.questions.length === questions.length),
    { message: wrong("input.everyLanguageNeedsAllQuestions"), path: ["words"] },
  )
  .refine(
    ({ words }) =>
      words.every((word) =>
        word.questions.every(
          ({ choices }, at) => choices.length === words[0]?.questions[at]?.choices.length,
        ),
      ),
    { message: wrong("input.everyLanguageNeedsAllChoicesOf"), path: ["words"] },
  )
  .refine(
    ({ words }) =>
      new Set(words.map(({ language }) => language.toLowerCase())).size === words.length,
    { message: wrong("input.addEachLanguageOnlyOnce"), path: ["words"] },
  )
  .refine(
    ({ words }) =>
      words.every(
        (word) =>
          new Set(word.questions.map(({ title }) => title.toLowerCase())).size ===
          word.questions.length,
      ),
    { message: wrong("input.twoQuestionsHaveTheSameTitle"), path: ["words"] },
  )
  .refine(({ opensOn, closesOn }) => opensOn === "" || closesOn === "" || opensOn <= closesOn, {
    message: wrong("input.theFormWouldCloseBeforeIt"),
    path: ["closesOn"],
  })
  .refine(({ parts, words }) => !parts.includes("consent") || words[0]?.consent.trim() !== "", {
    message: wrong("input.writeWhatFamiliesAgreeToOr"),
    path: ["consent"],
  })
  .meta({ id: "FormContent" });

const Slug = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9-]{1,39}$/, wrong("input.use2To40SmallLetters"))
  .refine(
    (slug) => slug !== "mine" && slug !== "second",
    wrong("input.thisWordIsTakenChooseAnother"),
  );

const Counts = z.object({
  unconfirmed: z.number().int(),
  accepted: z.number().int(),
  waiting: z.number().int(),
  refused: z.number().int(),
});

export const FormLine = z
  .object({
    id: z.string(),
    source: z.string(),
    title: z.string(),
    url: z.string(),
    by: z.string(),
    is: z.enum(["open", "not yet", "over"]),
    opensOn: z.string(),
    closesOn: z.string(),
    counts: Counts,
  })
  .meta({ id: "FormLine" });
export type FormLine = z.output<typeof FormLine>;

const Choice = z.object({
  key: z.string(),
  name: z.string(),
  site: z.string(),
  kind: z.enum(["class", "team"]),
});

export const FormPage = z
  .object({
    ...FormLine.shape,
    slug: z.string(),
    version: z.number().int(),
    content: FormContentShape,
    mode: z.enum(["ask", "itself"]),
    /** The version of the consent that stands; 0 for none. */
    consent: z.number().int(),
    choices: z.array(Choice),
    /** What a notice says beside its code, in each language of the form. */
    noticeLines: z.record(z.string(), z.string()),
    /** Whether a round that comes of it alone may be carried out by itself, as the asker may say. */
    mayStep: z.boolean(),
  })
  .meta({ id: "FormPage" });
export type FormPage = z.output<typeof FormPage>;

export const AnswerShape = z
  .object({
    given: z.string(),
    family: z.string(),
    class: z.string(),
    team: z.string(),
    name: z.string(),
    address: z.string(),
    relationship: z.string(),
    secondName: z.string(),
    secondAddress: z.string(),
    secondRelationship: z.string(),
    howOften: z.enum(HOW_OFTEN),
    questions: z.array(z.string()),
    consent: z.number().int(),
  })
  .meta({ id: "FormAnswer" });

export const ANSWER_STATES = [
  "unconfirmed",
  "accepted",
  "asked",
  "held",
  "refused",
  "replaced",
] as const;

export const AnswerLine = z
  .object({
    id: z.string(),
    at: z.string(),
    language: z.string(),
    answer: AnswerShape,
    state: z.enum(ANSWER_STATES),
    why: z.string(),
    /** Whether the second guardian has said that the address is theirs. */
    second: z.enum(["none", "waiting", "confirmed"]),
    /** How many older answers it stands in place of. */
    older: z.number().int(),
    decidedBy: z.string(),
  })
  .meta({ id: "AnswerLine" });
export type AnswerLine = z.output<typeof AnswerLine>;

const Id = z.object({ id: z.uuid() });
export const ANSWER_SORTS = ["newest", "child", "class", "guardian"] as const;

const FormWanted = z.object({
  slug: Slug,
  content: FormContentShape,
  mode: z.enum(["ask", "itself"]),
});

/** Who has not answered yet, or can't be written to. */
export const MissingStudent = z
  .object({
    id: z.string(),
    name: z.string(),
    classes: z.array(z.string()),
    why: z.enum(["no answer", "address fails"]),
    by: z.array(z.object({ id: z.string(), who: z.string(), address: z.string() })),
  })
  .meta({ id: "MissingStudent" });
export type MissingStudent = z.output<typeof MissingStudent>;

export const getForms = endpoint({
  method: "get",
  path: "/api/forms",
  summary: "The sign-up forms of the current season that the asker sees",
  who: "make forms",
  answer: z.object({ forms: z.array(FormLine), choices: z.array(Choice) }),
});
export const postForm = endpoint({
  method: "post",
  path: "/api/forms",
  summary: "Make a sign-up form",
  who: "make forms",
  most: LONG_BODY,
  body: FormWanted,
  answer: z.object({ id: z.string() }),
});
export const postFormPreview = endpoint({
  method: "post",
  path: "/api/forms/preview",
  summary: "A form as families see it, without keeping it",
  who: "make forms",
  most: LONG_BODY,
  body: z.object({ content: FormContentShape, language: z.string().max(35) }),
  answer: z.object({ html: z.string() }),
});
export const getForm = endpoint({
  method: "get",
  path: "/api/forms/{id}",
  summary: "One sign-up form",
  who: "make forms",
  params: Id,
  answer: FormPage,
});
export const putForm = endpoint({
  method: "put",
  path: "/api/forms/{id}",
  summary: "Change a sign-up form",
  who: "make forms",
  params: Id,
  most: LONG_BODY,
  body: FormWanted.extend({ version: z.number().int() }),
  answer: z.object({ version: z.number().int() }),
});
export const getAnswers = endpoint({
  method: "get",
  path: "/api/forms/{id}/answers",
  summary: "The answers to a form, 100 at a time",
  who: "make forms",
  params: Id,
  query: z.object({
    state: z.enum(["all", "waiting", ...ANSWER_STATES]).default("all"),
    q: z.string().max(100).default(""),
    sort: z.enum(ANSWER_SORTS).default("newest"),
    from: CountedNumber.default(0),
  }),
  answer: z.object({ total: z.number().int(), answers: z.array(AnswerLine) }),
});
export const getOlderAnswers = endpoint({
  method: "get",
  path: "/api/form-answers/{id}/older",
  summary: "The older answers that a newer one replaces, newest first",
  who: "make forms",
  params: Id,
  answer: z.array(AnswerLine),
});
export const postAnswerDecision = endpoint({
  method: "post",
  path: "/api/form-answers/{id}/decision",
  summary: "Accept or decline an answer",
  who: "make forms",
  params: Id,
  body: z.object({ take: z.boolean() }),
  answer: z.object({ state: z.enum(ANSWER_STATES) }),
});
export const getMissing = endpoint({
  method: "get",
  path: "/api/forms/{id}/missing",
  summary: "Students of a form's classes who have no answer yet, or whose address fails",
  who: "make forms",
  params: Id,
  answer: z.object({ students: z.array(MissingStudent), asked: z.number().int() }),
});
