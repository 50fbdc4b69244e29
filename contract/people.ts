import * as z from "zod";
import { endpoint } from "./endpoint";
import { CountedNumber } from "./countedNumber";

const PersonLine = z
  .object({
    id: z.string(),
    role: z.enum(["student", "guardian"]),
    name: z.string(),
    number: z.string(),
    detail: z.string(),
    addresses: z.array(
      z.object({ address: z.string(), inside: z.boolean(), lists: z.number().int() }),
    ),
  })
  .meta({ id: "PersonLine" });
export type PersonLine = z.output<typeof PersonLine>;

/** A family as one card: students, guardians, what is missing. */
export const Family = z
  .object({
    id: z.string(),
    name: z.string(),
    people: z.array(PersonLine),
    missing: z.array(z.string()),
  })
  .meta({ id: "Family" });
export type Family = z.output<typeof Family>;

const Where = z.object({
  text: z.string(),
  reading: z.string().nullable(),
  source: z.string().nullable(),
});

export const PersonPage = z
  .object({
    family: Family,
    person: PersonLine,
    /** Children of a guardian, or guardians of a student. */
    ties: z.array(z.object({ id: z.string(), name: z.string(), relationship: z.string() })),
    lists: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        address: z.string(),
        because: z.string(),
        where: z.string(),
        since: z.string(),
      }),
    ),
    /** What was said of them by hand. */
    byHand: z.array(
      z.object({ id: z.number().int(), sentence: z.string(), by: z.string(), at: z.string() }),
    ),
    /** What became known of them and when, newest first. */
    timeline: z.array(
      z.object({
        at: z.string(),
        what: z.string(),
        sign: z.enum(["+", "−", "~", "→"]),
        where: Where,
        round: z.number().int().nullable(),
      }),
    ),
  })
  .meta({ id: "PersonPage" });
export type PersonPage = z.output<typeof PersonPage>;

/** Something that only a person can settle, with what each side says. */
export const QuestionLine = z
  .object({
    key: z.string(),
    kind: z.string(),
    about: z.string(),
    sides: z.array(
      z.object({
        title: z.string(),
        lines: z.array(z.string()),
        where: z.string(),
        source: z.string().nullable(),
      }),
    ),
    choices: z.array(z.object({ id: z.string(), label: z.string() })),
    meanwhile: z.string(),
  })
  .meta({ id: "Question" });
export type QuestionLine = z.output<typeof QuestionLine>;

const Outcome = z.object({ round: z.number().int().nullable(), causes: z.number().int() });
const Id = z.object({ id: z.string().max(100) });

export const getLeft = endpoint({
  method: "get",
  path: "/api/people/left",
  summary: "People who were in the sheets and are no longer",
  who: "forget people",
  query: z.object({ q: z.string().max(100).default("") }),
  answer: z.array(
    z.object({ id: z.string(), name: z.string(), role: z.string(), left: z.string() }),
  ),
});
export const postForget = endpoint({
  method: "post",
  path: "/api/people/{id}/forget",
  summary: "Remove the personal data of somebody who left, for good; counts stay",
  who: "forget people",
  params: Id,
  body: z.object({ name: z.string().max(200) }),
  answer: z.object({ done: z.literal(true) }),
});
export const getPeople = endpoint({
  method: "get",
  path: "/api/people",
  summary: "Families, by any part of a name, number or address",
  who: "see people",
  query: z.object({
    /** Names, numbers or addresses; several on lines of their own or with commas between. */
    q: z.string().max(4000).default(""),
    only: z.enum(["", "unreachable"]).default(""),
    from: CountedNumber.default(0),
  }),
  answer: z.object({ total: z.number().int(), families: z.array(Family) }),
});
export const getPerson = endpoint({
  method: "get",
  path: "/api/people/{id}",
  summary: "One person: family, lists and why, timeline",
  who: "see people",
  params: Id,
  answer: PersonPage,
});
export const putAddresses = endpoint({
  method: "put",
  path: "/api/people/{id}/addresses",
  summary: "Choose which addresses somebody has",
  who: "decide on people",
  params: Id,
  body: z.object({ addresses: z.array(z.string().trim().min(1).max(254)).max(10) }),
  answer: Outcome,
});
export const postJoin = endpoint({
  method: "post",
  path: "/api/people/{id}/join",
  summary: "Merge two people",
  who: "decide on people",
  params: Id,
  body: z.object({ other: z.string().max(100) }),
  answer: Outcome,
});
export const postPart = endpoint({
  method: "post",
  path: "/api/people/{id}/part",
  summary: "Split some children or addresses off to another person of that name",
  who: "decide on people",
  params: Id,
  body: z.object({
    students: z.array(z.string()).max(100).default([]),
    addresses: z.array(z.string()).max(100).default([]),
  }),
  answer: Outcome.extend({ person: z.string() }),
});
export const deleteByHand = endpoint({
  method: "delete",
  path: "/api/by-hand/{number}",
  summary: "Undo a manual change",
  who: "decide on people",
  params: z.object({ number: CountedNumber }),
  answer: Outcome,
});
export const getByHand = endpoint({
  method: "get",
  path: "/api/by-hand",
  summary: "Manual changes that hold, newest first",
  who: "see people",
  answer: z.array(
    z.object({ id: z.number().int(), sentence: z.string(), by: z.string(), at: z.string() }),
  ),
});
export const getQuestions = endpoint({
  method: "get",
  path: "/api/questions",
  summary: "Open questions",
  who: "see people",
  answer: z.array(QuestionLine),
});
export const postAnswer = endpoint({
  method: "post",
  path: "/api/questions/answer",
  summary: "Answer a question; it is not asked again",
  who: "decide on people",
  body: z.object({ key: z.string().max(2000), choice: z.string().max(500) }),
  answer: Outcome,
});
