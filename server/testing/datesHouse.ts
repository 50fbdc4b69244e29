import ICAL from "ical.js";
import { simpleParser, type ParsedMail } from "mailparser";
import { expect } from "vitest";
import type { DateContent, DatePage } from "@amigo/contract/dates";
import { addDays } from "@amigo/core/calendar/when";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "./testHouse";

export const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
export const student = (
  number: number,
  surname: string,
  first: string,
  site: string,
  group: string,
): string =>
  `CW-${number},${surname},${first},${site},${group},,Robin ${surname},${surname.toLowerCase()}@oakmail.example`;

/** A mail about a date as it arrived, with the date in it. */
export interface Got {
  to: string;
  mail: ParsedMail;
  event: ICAL.Component;
  method: string;
  /** The secret in its links. */
  token: string;
}

/** A test house with a few families, and what tests of dates need to make dates and to look at their mails. */
export interface DatesHouse {
  house: TestHouse;
  juno: Client;
  source: string;
  listOf: (words: RegExp) => string;
  contentOf: (more?: Partial<DateContent>) => DateContent;
  make: (more?: Partial<DateContent>, client?: Client) => Promise<string>;
  pageOf: (id: string, client?: Client) => Promise<DatePage>;
  /** Forgets the mails that have come so far. */
  turnPage: () => void;
  /** The mails about dates whose subjects begin with some words, by their addresses: as many as are said. */
  got: (subject: string, count: number) => Promise<Map<string, Got>>;
}

/**
 * Starts a house with the members of a roster on its lists.
 *
 * @param roster   lines of students; the first list with "Trapeze Two" is invited where a test says no other
 * @param day      when the dates are
 * @param settings of the house
 */
export async function startDatesHouse(
  roster: readonly string[],
  day: string,
  settings: Record<string, string> = {},
): Promise<DatesHouse> {
  const house = await startTestHouse({ settings });
  const juno = await house.signIn(JUNO);
  const { source } = await house.readLines(juno, [HEAD, ...roster], { name: "Office" });
  await house.step(juno);
  const all = await juno.ask<{ lists: { id: string; title: string }[] }>("GET", "/api/lists/all");
  const lists = new Map(all.body.lists.map(({ id, title }) => [title, id]));
  let mailed = house.sink.mails.length;

  const listOf = (words: RegExp): string => {
    const [, id] = [...lists].find(([title]) => words.test(title)) ?? [];
    if (id === undefined) throw new Error(`no list like ${words}: ${[...lists.keys()].join(", ")}`);
    return id;
  };
  const contentOf = (more: Partial<DateContent> = {}): DateContent => ({
    title: "Rehearsal",
    text: "Please bring indoor shoes.",
    place: "Mill Loft",
    link: "",
    when: { allDay: false, from: `${day}T18:00`, until: `${day}T19:30` },
    repeat: null,
    lists: [listOf(/Trapeze Two.*guardians/i)],
    answerUntil: "",
    places: null,
    reminders: [],
    people: [],
    privateLists: [],
    ...more,
  });
  return {
    house,
    juno,
    source,
    listOf,
    contentOf,
    make: async (more = {}, client = juno) => {
      const { status, body } = await client.ask<{ id: string; detail?: string }>(
        "POST",
        "/api/dates",
        contentOf(more),
      );
      if (status !== 200) throw new Error(`${status} ${body.detail ?? ""}`);
      return body.id;
    },
    pageOf: async (id, client = juno) =>
      (await client.ask<DatePage>("GET", `/api/dates/${id}`)).body,
    turnPage: () => {
      mailed = house.sink.mails.length;
    },
    got: async (subject, count) => {
      const found = await until(
        `${count} mails "${subject}"`,
        () => openMails(house.sink.mails.slice(mailed), subject),
        (mails) => mails.length >= count,
      );
      expect(found).toHaveLength(count);
      return new Map(found.map((one) => [one.to, one]));
    },
  };
}

async function openMails(
  mails: readonly { to: string; raw: Buffer | string }[],
  subject: string,
): Promise<Got[]> {
  const all: Got[] = [];
  for (const { to, raw } of mails) {
    const mail = await simpleParser(raw);
    if (mail.subject?.startsWith(subject) !== true) continue;
    const part = mail.attachments.find(({ contentType }) => contentType === "text/calendar");
    const calendar = new ICAL.Component(
      part === undefined ? ["vcalendar", [], []] : ICAL.parse(part.content.toString("utf8")),
    );
    all.push({
      to,
      mail,
      event: calendar.getFirstSubcomponent("vevent") ?? new ICAL.Component("vevent"),
      method: String(calendar.getFirstPropertyValue("method")),
      token: /\/date\/([a-z0-9]+)/.exec(mail.text ?? "")?.[1] ?? "",
    });
  }
  return all;
}

/** Returns a part of the date in a mail as text. */
export function partOf(one: Got | undefined, name: string): string {
  return String(one?.event.getFirstPropertyValue(name));
}

/** Returns the day that is some days from today. */
export function dayFromNow(days: number): string {
  return addDays(new Date().toISOString().slice(0, 10), days);
}
