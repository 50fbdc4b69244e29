import * as z from "zod";
import { WEEKDAYS } from "@amigo/core/calendar/repeat";
import { endpoint, FILE_BODY } from "./endpoint";
import { wrong } from "./wrong";

const Day = z.iso.date();
const Moment = z.string().regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/);

/** When a date is, by the house's clocks. */
export const DateWhen = z.discriminatedUnion("allDay", [
  z.object({ allDay: z.literal(true), from: Day, until: Day }),
  z.object({ allDay: z.literal(false), from: Moment, until: Moment }),
]);
export type DateWhen = z.output<typeof DateWhen>;

const Step = z.number().int().min(1).max(12);

export const DateRepeat = z
  .discriminatedUnion("every", [
    z.object({
      every: z.literal("week"),
      step: Step,
      days: z.array(z.enum(WEEKDAYS)).max(7),
      until: Day,
    }),
    z.object({ every: z.literal("month"), step: Step, until: Day }),
    z.object({ every: z.literal("month by weekday"), step: Step, until: Day }),
  ])
  .nullable();
export type DateRepeat = z.output<typeof DateRepeat>;

/** A date as somebody writes it. */
export const DateContent = z
  .object({
    title: z.string().trim().min(1, wrong("input.giveTheDateATitle")).max(200),
    text: z.string().trim().max(4000).default(""),
    place: z.string().trim().max(200).default(""),
    /** Where to meet online. */
    link: z.union([z.literal(""), z.url({ protocol: /^https?$/ }).max(1000)]).default(""),
    when: DateWhen,
    repeat: DateRepeat.default(null),
    lists: z.array(z.uuid()).max(20).default([]),
    /** People who are invited by themselves, by their ids; a child through the guardians. */
    people: z.array(z.string().max(200)).max(200).default([]),
    /** Private lists of whoever makes it. */
    privateLists: z.array(z.uuid()).max(20).default([]),
    answerUntil: z.union([z.literal(""), Day]).default(""),
    /** How many people can come; null for any number. */
    places: z.number().int().min(1).max(100_000).nullable().default(null),
    /** Files that go with it, by their ids; left out, they stay as they are. */
    files: z.array(z.uuid()).max(10).optional(),
    /** How many days before it those who come are reminded; 0 is the morning of the day. */
    reminders: z.array(z.number().int().min(0).max(60)).max(5).default([]),
  })
  .meta({ id: "DateContent" });
export type DateContent = z.output<typeof DateContent>;

/** A file that goes with a date: guests open it by their link. */
export const DateFile = z
  .object({ id: z.string(), name: z.string(), size: z.number().int() })
  .meta({ id: "DateFile" });
export type DateFile = z.output<typeof DateFile>;

/** What the invited say, as far as the asker sees who they are: each family once, however many addresses it has. */
export const DateCounts = z.object({
  /** Those who come and have a place. */
  yes: z.number().int(),
  maybe: z.number().int(),
  no: z.number().int(),
  /** Those who haven't answered. */
  silent: z.number().int(),
  /** Those who come if a place gets free. */
  waiting: z.number().int(),
  /** How many people come with those who said yes. */
  people: z.number().int(),
  /** To how many addresses the invitation went. */
  addresses: z.number().int(),
});
export type DateCounts = z.output<typeof DateCounts>;

const Shown = z.object({
  id: z.string(),
  title: z.string(),
  place: z.string(),
  when: DateWhen,
  repeat: DateRepeat,
  /** Its lists that the asker sees. */
  lists: z.array(z.object({ id: z.string(), title: z.string() })),
  isCancelled: z.boolean(),
  places: z.number().int().nullable(),
  counts: DateCounts,
});

/** One date of the list: where it is repeated, the next time. */
export const DateLine = Shown.meta({ id: "DateLine" });
export type DateLine = z.output<typeof DateLine>;

/** Somebody who is invited, as far as the asker may know them. */
export const DateGuest = z
  .object({
    address: z.string(),
    name: z.string(),
    /** Tells families apart, on this page alone. */
    family: z.string(),
    /** Those of the date's lists that they are on. */
    lists: z.array(z.string()),
    answer: z.enum(["yes", "no", "maybe"]).nullable(),
    people: z.number().int(),
    isWaiting: z.boolean(),
    word: z.string(),
    /** Another time that they propose. */
    proposes: DateWhen.nullable(),
    answeredAt: z.string().nullable(),
  })
  .meta({ id: "DateGuest" });
export type DateGuest = z.output<typeof DateGuest>;

export const DatePage = Shown.extend({
  text: z.string(),
  link: z.string(),
  answerUntil: z.string(),
  madeBy: z.string(),
  reason: z.string(),
  sequence: z.number().int(),
  /** Whether the asker may change it or call it off; or, where it was called off, bring it back. */
  mayChange: z.boolean(),
  mayRestore: z.boolean(),
  reminders: z.array(z.number().int()),
  files: z.array(DateFile),
  /** Whom else it is for, as whoever made it chose them; nobody else sees them. */
  people: z.array(z.object({ id: z.string(), name: z.string() })),
  privateLists: z.array(z.object({ id: z.string(), name: z.string() })),
  /** Its times that are still to come, at most a few, each with the day on which it was planned. */
  next: z.array(z.object({ day: Day, when: DateWhen })),
  /** Those of its times that don't take place, of a repeated date. */
  dropped: z.array(Day),
  guests: z.array(DateGuest),
  /** How many addresses are there of families that haven't answered by any: those who can be asked again. */
  toAsk: z.number().int(),
  /** When guests were last asked again; null for never. */
  askedAt: z.string().nullable(),
}).meta({ id: "DatePage" });
export type DatePage = z.output<typeof DatePage>;

const Id = z.object({ id: z.uuid() });

export const getDates = endpoint({
  method: "get",
  path: "/api/dates",
  summary: "Dates of the lists that the asker sees: those to come, or the past ones",
  who: "see dates",
  query: z.object({ which: z.enum(["coming", "past"]).default("coming") }),
  answer: z.array(DateLine),
});
export const getDate = endpoint({
  method: "get",
  path: "/api/dates/{id}",
  summary: "One date with the answers",
  who: "see dates",
  params: Id,
  answer: DatePage,
});
export const postDateFile = endpoint({
  method: "post",
  path: "/api/dates/files",
  summary: "Add a file that is to go with a date; within a day it has to be put on one",
  who: "make dates",
  bodyType: "form",
  most: FILE_BODY,
  body: z.object({
    file: z
      .instanceof(globalThis.File, { message: wrong("input.chooseAFile") })
      .meta({ type: "string", format: "binary" }),
  }),
  answer: DateFile,
});
export const postDateDeclineProposal = endpoint({
  method: "post",
  path: "/api/dates/{id}/decline-proposal",
  summary: "Decline another time that a guest proposes: they are told that the date stays",
  who: "make dates",
  params: Id,
  body: z.object({ address: z.string().max(254) }),
  answer: z.object({ done: z.literal(true) }),
});
export const postDateRestore = endpoint({
  method: "post",
  path: "/api/dates/{id}/restore",
  summary: "Bring a date back that was called off: everybody is invited again",
  who: "make dates",
  params: Id,
  answer: z.object({ done: z.literal(true) }),
});
/** A part of the season: a term in which there are lessons, or holidays. */
export const SeasonTerm = z
  .object({
    name: z.string().trim().min(1, wrong("input.nameTheTerm")).max(60),
    kind: z.enum(["term", "holidays"]),
    firstDay: Day,
    lastDay: Day,
  })
  .meta({ id: "SeasonTerm" });
export type SeasonTerm = z.output<typeof SeasonTerm>;

/** One time of a date in a calendar. */
export const DateTime = z
  .object({
    /** The date. */
    id: z.string(),
    title: z.string(),
    place: z.string(),
    when: DateWhen,
    isRepeated: z.boolean(),
    lists: Shown.shape.lists,
    isCancelled: z.boolean(),
    counts: DateCounts,
  })
  .meta({ id: "DateTime" });
export type DateTime = z.output<typeof DateTime>;

export const getDateTimes = endpoint({
  method: "get",
  path: "/api/dates/times",
  summary:
    "All times of dates that the asker sees between two days, and the terms and holidays there",
  who: "see dates",
  query: z.object({ from: Day, until: Day }),
  answer: z.object({ times: z.array(DateTime), terms: z.array(SeasonTerm) }),
});
export const getTerms = endpoint({
  method: "get",
  path: "/api/terms",
  summary: "The terms and holidays of the season",
  who: "see dates",
  answer: z.array(SeasonTerm),
});
export const putTerms = endpoint({
  method: "put",
  path: "/api/terms",
  summary: "Change the terms and holidays of the season: those that are sent are all of them",
  who: "change the house",
  body: z.object({ terms: z.array(SeasonTerm).max(60) }),
  answer: z.array(SeasonTerm),
});
export const postDatePreview = endpoint({
  method: "post",
  path: "/api/dates/preview",
  summary: "To how many addresses an invitation would go, and what stands in its way",
  who: "make dates",
  body: DateContent.pick({ lists: true, people: true, privateLists: true }),
  answer: z.object({ addresses: z.number().int(), refused: z.array(z.string()) }),
});
export const postDate = endpoint({
  method: "post",
  path: "/api/dates",
  summary: "Make a date and invite the members of its lists",
  who: "make dates",
  body: DateContent,
  answer: z.object({ id: z.string() }),
});
export const putDate = endpoint({
  method: "put",
  path: "/api/dates/{id}",
  summary: "Change a date; those whom it concerns are told",
  who: "make dates",
  params: Id,
  body: DateContent.extend({ sequence: z.number().int() }),
  answer: z.object({ id: z.string() }),
});
export const postDateCancel = endpoint({
  method: "post",
  path: "/api/dates/{id}/cancel",
  summary: "Call a date off",
  who: "make dates",
  params: Id,
  body: z.object({ reason: z.string().trim().max(500).default("") }),
  answer: z.object({ done: z.literal(true) }),
});

export const putDateTime = endpoint({
  method: "put",
  path: "/api/dates/{id}/times/{day}",
  summary: "Move one time of a repeated date, drop it, or let it be as it was planned",
  who: "make dates",
  params: z.object({ id: z.uuid(), day: Day }),
  body: z.object({
    /** Another time; `dropped` where it doesn't take place, `planned` for as it was. */
    to: z.union([DateWhen, z.enum(["dropped", "planned"])]),
    sequence: z.number().int(),
  }),
  answer: z.object({ id: z.string() }),
});
export const postDateAskAgain = endpoint({
  method: "post",
  path: "/api/dates/{id}/ask-again",
  summary: "Ask those families again that haven't answered, as far as the asker may know them",
  who: "make dates",
  params: Id,
  answer: z.object({ addresses: z.number().int() }),
});
