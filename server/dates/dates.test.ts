import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { DateContent, DateLine, DatePage } from "@amigo/contract/dates";
import { addDays } from "@amigo/core/calendar/when";
import {
  dayFromNow,
  HEAD,
  partOf,
  startDatesHouse,
  student,
  type DatesHouse,
  type Got,
} from "../testing/datesHouse";
import { ODILE, RAVI, type Client, type TestHouse } from "../testing/testHouse";
import { keepGuestsInStep } from "./keepGuestsInStep";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
  student(3, "Pine", "Tove", "Big Barn", "Juggling One"),
];
const TODAY = dayFromNow(0);
const DAY = dayFromNow(10);

let dates: DatesHouse;
let house: TestHouse;
let juno: Client;
let source = "";

beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, DAY);
  ({ house, juno, source } = dates);
});
afterAll(() => house?.close());
beforeEach(() => dates.turnPage());

const trapeze = (): string => dates.listOf(/Trapeze Two.*guardians/i);
const juggling = (): string => dates.listOf(/Juggling One.*guardians/i);
const contentOf = (more?: Partial<DateContent>): DateContent => dates.contentOf(more);
const make = (more?: Partial<DateContent>, client?: Client): Promise<string> =>
  dates.make(more, client);
const pageOf = (id: string, client?: Client): Promise<DatePage> => dates.pageOf(id, client);
const got = (subject: string, count: number): Promise<Map<string, Got>> =>
  dates.got(subject, count);

describe("a date", () => {
  test("invites every member of its lists by a mail of their own, with the date for their calendar", async () => {
    const id = await make();
    const mails = await got("Invitation: Rehearsal", 2);
    expect([...mails.keys()].sort()).toEqual(["elm@oakmail.example", "oak@oakmail.example"]);
    const oak = mails.get("oak@oakmail.example");
    expect(oak?.method).toBe("REQUEST");
    expect(oak?.mail.text).toContain("Please bring indoor shoes.");
    expect(oak?.mail.text).toContain("?answer=yes");
    expect(oak?.event.getAllProperties("attendee").map((guest) => guest.getFirstValue())).toEqual([
      "mailto:oak@oakmail.example",
    ]);
    // Nobody finds another guest in their mail.
    expect(JSON.stringify(oak?.mail)).not.toContain("elm@");
    expect(partOf(oak, "summary")).toBe("Rehearsal");
    expect(partOf(oak, "dtstart")).toBe(`${DAY}T18:00:00`);
    expect(partOf(oak, "organizer")).toMatch(/^mailto:.*\+date\.[a-z0-9]+@lists\./);
    expect((await pageOf(id)).counts).toEqual({
      yes: 0,
      maybe: 0,
      no: 0,
      silent: 2,
      waiting: 0,
      people: 0,
      addresses: 2,
    });
    // Looking again tells nobody anything again.
    expect(await keepGuestsInStep(house.amigo.context)).toBe(0);
  });

  test("of several lists invites whoever is on more than one of them once", async () => {
    await make({ title: "Show", lists: [trapeze(), juggling(), trapeze()] });
    const mails = await got("Invitation: Show", 3);
    expect(mails.has("pine@oakmail.example")).toBe(true);
  });

  test("is answered by its link: looking at it answers nothing", async () => {
    const id = await make({ title: "Picnic" });
    const token = (await got("Invitation: Picnic", 2)).get("oak@oakmail.example")?.token ?? "";
    const shown = await fetch(`${house.url}/date/${token}?answer=yes`);
    expect(shown.status).toBe(200);
    expect(await shown.text()).toContain("Picnic");
    expect((await pageOf(id)).counts.silent).toBe(2);
    const body = new URLSearchParams({ answer: "yes", people: "3", word: "With the twins" });
    const answered = await fetch(`${house.url}/date/${token}`, { method: "POST", body });
    expect(await answered.text()).toContain("Yes, I&#39;ll come");
    const { counts, guests } = await pageOf(id);
    expect(counts).toEqual({
      yes: 1,
      maybe: 0,
      no: 0,
      silent: 1,
      waiting: 0,
      people: 3,
      addresses: 2,
    });
    expect(guests.find(({ address }) => address === "oak@oakmail.example")).toMatchObject({
      name: "Robin Oak",
      answer: "yes",
      people: 3,
      word: "With the twins",
    });
  });

  test.each([
    ["no answer", {}, 400],
    ["an answer of its own making", { answer: "perhaps" }, 400],
  ])("isn't answered by %s", async (_what, form, status) => {
    const id = await make({ title: `Tea ${status} ${Object.keys(form).length}` });
    const token = (await got("Invitation: Tea", 2)).get("elm@oakmail.example")?.token ?? "";
    const answered = await fetch(`${house.url}/date/${token}`, {
      method: "POST",
      body: new URLSearchParams(form),
    });
    expect(answered.status).toBe(status);
    expect((await pageOf(id)).counts.silent).toBe(2);
  });

  test("takes no more people than a family can be, and no number that is none", async () => {
    const id = await make({ title: "Feast" });
    const mails = await got("Invitation: Feast", 2);
    for (const [address, people] of [
      ["oak@oakmail.example", "9999"],
      ["elm@oakmail.example", "many"],
    ] as const)
      await fetch(`${house.url}/date/${mails.get(address)?.token ?? ""}`, {
        method: "POST",
        body: new URLSearchParams({ answer: "yes", people }),
      });
    expect((await pageOf(id)).counts).toMatchObject({ yes: 2, people: 21 });
  });

  test("is behind no link that was not mailed", async () => {
    const answer = await fetch(`${house.url}/date/${"a".repeat(40)}`);
    expect(answer.status).toBe(404);
    expect(await answer.text()).toContain("There is no such invitation");
  });
});

describe("the answer of a calendar program", () => {
  const reply = (one: Got | undefined, partstat: string, uid = partOf(one, "uid")): string =>
    [
      `From: Otto <${one?.to ?? ""}>`,
      `To: ${partOf(one, "organizer").slice("mailto:".length)}`,
      "Subject: Accepted: Rehearsal",
      "MIME-Version: 1.0",
      'Content-Type: multipart/alternative; boundary="b"',
      "",
      "--b",
      "Content-Type: text/plain",
      "",
      "Otto has answered.",
      "--b",
      "Content-Type: text/calendar; method=REPLY; charset=utf-8",
      "",
      "BEGIN:VCALENDAR",
      "METHOD:REPLY",
      "BEGIN:VEVENT",
      `UID:${uid}`,
      `ATTENDEE;PARTSTAT=${partstat}:mailto:somebody.else@oakmail.example`,
      "COMMENT:On the bus",
      "END:VEVENT",
      "END:VCALENDAR",
      "--b--",
      "",
    ].join("\r\n");
  const send = async (one: Got | undefined, raw: string): Promise<void> =>
    house.mail({
      from: one?.to ?? "",
      to: partOf(one, "organizer").slice("mailto:".length),
      raw,
    });

  test("counts for whom the invitation was, whatever address the program names", async () => {
    const id = await make({ title: "Parade" });
    const oak = (await got("Invitation: Parade", 2)).get("oak@oakmail.example");
    await send(oak, reply(oak, "DECLINED"));
    const { counts, guests } = await pageOf(id);
    expect(counts).toMatchObject({ no: 1, silent: 1 });
    expect(guests.find(({ answer }) => answer === "no")).toMatchObject({
      address: "oak@oakmail.example",
      word: "On the bus",
    });
  });

  test("that is about another date, or can't be read, is asked for again by a link", async () => {
    const id = await make({ title: "Juggle" });
    const elm = (await got("Invitation: Juggle", 2)).get("elm@oakmail.example");
    await send(elm, reply(elm, "ACCEPTED", "another@lists.copperwheel.example"));
    const mail = await house.mailTo("elm@oakmail.example", "couldn't be read");
    expect(mail).toContain(`/date/${elm?.token ?? ""}`);
    expect((await pageOf(id)).counts.silent).toBe(2);
  });

  test("to an address with a made-up secret is refused", async () => {
    await expect(
      house.mail({
        from: "oak@oakmail.example",
        to: `ml-trapeze2+date.${"a".repeat(40)}@lists.copperwheel.example`,
      }),
    ).rejects.toThrow(/550/);
  });
});

describe("a date stays in step", () => {
  test("a change is told to those who were invited, with what has changed, and their answers stay", async () => {
    const id = await make({ title: "Workshop" });
    const first = (await got("Invitation: Workshop", 2)).get("oak@oakmail.example");
    await fetch(`${house.url}/date/${first?.token ?? ""}`, {
      method: "POST",
      body: new URLSearchParams({ answer: "maybe" }),
    });
    dates.turnPage();
    const changed = { ...contentOf({ title: "Workshop", place: "Big Barn" }), sequence: 0 };
    expect((await juno.ask("PUT", `/api/dates/${id}`, changed)).status).toBe(200);
    const mails = await got("Changed: Workshop", 2);
    const oak = mails.get("oak@oakmail.example");
    expect(oak?.mail.text).toContain('"Workshop" has changed: the place.');
    expect(partOf(oak, "uid")).toBe(partOf(first, "uid"));
    expect(partOf(oak, "sequence")).toBe("1");
    expect(oak?.event.getFirstProperty("attendee")?.getParameter("partstat")).toBe("TENTATIVE");
    // Whoever had the page open before is told.
    const stale = await juno.ask<{ type: string }>("PUT", `/api/dates/${id}`, changed);
    expect(stale.body.type).toBe("urn:amigo:fault:date/changed");
  });

  test("a new last day for answers alone is no news to anybody", async () => {
    const id = await make({ title: "Quiet" });
    await got("Invitation: Quiet", 2);
    const body = { ...contentOf({ title: "Quiet", answerUntil: TODAY }), sequence: 0 };
    expect((await juno.ask("PUT", `/api/dates/${id}`, body)).status).toBe(200);
    expect((await pageOf(id)).sequence).toBe(0);
    expect(await keepGuestsInStep(house.amigo.context)).toBe(0);
  });

  test("who leaves the list is uninvited, who joins it is invited, and nobody else hears of it", async () => {
    const past = await make({
      title: "Bygone",
      when: { allDay: true, from: addDays(TODAY, -9), until: addDays(TODAY, -9) },
    });
    await make({ title: "Gala", lists: [trapeze()] });
    await got("Invitation: Gala", 2);
    dates.turnPage();
    const moved = student(2, "Elm", "Bram", "Big Barn", "Juggling One");
    const joined = student(3, "Pine", "Tove", "Mill Loft", "Trapeze Two");
    await house.readLines(juno, [HEAD, ROSTER[0] ?? "", moved, joined], { id: source });
    await house.step(juno);
    const gone = await got("No longer invited: Gala", 1);
    expect(gone.get("elm@oakmail.example")?.method).toBe("CANCEL");
    const come = await got("Invitation: Gala", 1);
    expect(come.has("pine@oakmail.example")).toBe(true);
    // A date that is over is over.
    expect((await pageOf(past)).guests).toEqual([]);
    dates.turnPage();
    await house.readLines(juno, [HEAD, ...ROSTER], { id: source });
    await house.step(juno);
    const again = (await got("Invitation: Gala", 1)).get("elm@oakmail.example");
    expect(again?.token).toBeTruthy();
    // Their calendar must not take the new invitation for an old one.
    const cancelled = gone.get("elm@oakmail.example");
    expect(Number(partOf(again, "sequence"))).toBeGreaterThanOrEqual(
      Number(partOf(cancelled, "sequence")),
    );
  });

  test("called off, it is told to everybody with the reason, and takes no answers", async () => {
    const id = await make({ title: "Concert" });
    const token = (await got("Invitation: Concert", 2)).get("oak@oakmail.example")?.token ?? "";
    dates.turnPage();
    const cancel = () =>
      juno.ask("POST", `/api/dates/${id}/cancel`, { reason: "The hall is closed." });
    expect((await cancel()).status).toBe(200);
    const oak = (await got("Called off: Concert", 2)).get("oak@oakmail.example");
    expect(oak?.mail.text).toContain("The hall is closed.");
    expect(partOf(oak, "status")).toBe("CANCELLED");
    expect((await fetch(`${house.url}/date/${token}`)).status).toBe(404);
    expect((await cancel()).status).toBe(409);
    expect(await keepGuestsInStep(house.amigo.context)).toBe(0);
  });

  test("brought back, everybody is invited again by a newer state, and their links work", async () => {
    const id = await make({ title: "Picnic" });
    const first = (await got("Invitation: Picnic", 2)).get("oak@oakmail.example");
    await fetch(`${house.url}/date/${first?.token}`, {
      method: "POST",
      body: new URLSearchParams({ answer: "yes" }),
    });
    const restore = async (client = juno): Promise<number> =>
      (await client.ask("POST", `/api/dates/${id}/restore`)).status;
    expect(await restore()).toBe(409);
    await juno.ask("POST", `/api/dates/${id}/cancel`, { reason: "Rain." });
    const off = (await got("Called off: Picnic", 2)).get("oak@oakmail.example");
    expect(await pageOf(id)).toMatchObject({ isCancelled: true, mayRestore: true });
    expect(await restore(await house.signIn(RAVI))).toBe(404);
    dates.turnPage();
    expect(await restore()).toBe(200);
    const again = (await got("Invitation: Picnic", 2)).get("oak@oakmail.example");
    expect(Number(partOf(again, "sequence"))).toBeGreaterThan(Number(partOf(off, "sequence")));
    expect([again?.token, partOf(again, "uid")]).toEqual([first?.token, partOf(first, "uid")]);
    const page = await pageOf(id);
    expect(page).toMatchObject({ isCancelled: false, reason: "", mayRestore: false });
    expect(page.counts.yes).toBe(1);
    expect((await fetch(`${house.url}/date/${first?.token}`)).status).toBe(200);
  });

  test("it is repeated, and its page names the times to come", async () => {
    const id = await make({
      title: "Course",
      repeat: { every: "week", step: 1, days: [], until: addDays(DAY, 21) },
    });
    const oak = (await got("Invitation: Course", 2)).get("oak@oakmail.example");
    expect(partOf(oak, "rrule")).toContain("FREQ=WEEKLY");
    expect((await pageOf(id)).next.map(({ day }) => day)).toEqual(
      [0, 7, 14, 21].map((days) => addDays(DAY, days)),
    );
  });
});

describe("who may", () => {
  test("the list's rules decide who invites: whoever may write to it", async () => {
    const odile = await house.signIn(ODILE);
    const ravi = await house.signIn(RAVI);
    const { status, body } = await ravi.ask<{ detail: string }>(
      "POST",
      "/api/dates",
      contentOf({ title: "Mine" }),
    );
    expect([403, 404, 422]).toContain(status);
    expect(body.detail).not.toBe("");
    expect(await make({ title: "Hers" }, odile)).toMatch(/^[0-9a-f-]{36}$/);
  });

  test("a site coordinator sees the guests of their own site alone, also of a date for two", async () => {
    const odile = await house.signIn(ODILE);
    const id = await make({ title: "Two sites", lists: [trapeze(), juggling()] });
    await got("Invitation: Two sites", 3);
    const { guests, counts, lists: shown } = await pageOf(id, odile);
    expect(guests.map(({ address }) => address)).toEqual([
      "elm@oakmail.example",
      "oak@oakmail.example",
    ]);
    expect(counts.silent).toBe(2);
    expect(shown.map(({ title }) => title).join()).not.toContain("Juggling");
  });

  test("whoever may write to all of its lists may change it, and loses none of them by it", async () => {
    const odile = await house.signIn(ODILE);
    const { db } = house.amigo.context;
    const id = await make({ title: "Shared", lists: [trapeze(), juggling()] });
    await got("Invitation: Shared", 3);
    const rules = { findable: "staff", writers: "inside", roster: "leads" };
    await db.execute(
      sql`update list set rules = rules || ${JSON.stringify(rules)}::jsonb where id = ${juggling()}`,
    );
    const page = await pageOf(id, odile);
    expect(page.mayChange).toBe(true);
    expect(page.lists.map((list) => list.id).sort()).toEqual([trapeze(), juggling()].sort());
    expect(page.guests.map(({ address }) => address)).not.toContain("pine@oakmail.example");
    const body = {
      ...contentOf({ title: "Shared", place: "Tent", lists: page.lists.map((list) => list.id) }),
      sequence: page.sequence,
    };
    dates.turnPage();
    expect((await odile.ask("PUT", `/api/dates/${id}`, body)).status).toBe(200);
    expect((await got("Changed: Shared", 3)).has("pine@oakmail.example")).toBe(true);
  });

  test("what a family was invited to, and said, is part of what can be handed to them", async () => {
    await make({ title: "Kept" });
    const token = (await got("Invitation: Kept", 2)).get("oak@oakmail.example")?.token ?? "";
    await fetch(`${house.url}/date/${token}`, {
      method: "POST",
      body: new URLSearchParams({ answer: "no", word: "We are away" }),
    });
    const { body } = await juno.ask<{ families: { people: { id: string; name: string }[] }[] }>(
      "GET",
      "/api/people?q=robin oak",
    );
    const person = body.families
      .flatMap(({ people }) => people)
      .find(({ name }) => name === "Robin Oak");
    const record = await juno.ask<{ invitations: unknown[] }>(
      "GET",
      `/api/people/${person?.id ?? ""}/record`,
    );
    expect(record.body.invitations).toContainEqual(
      expect.objectContaining({ title: "Kept", answer: "no", word: "We are away" }),
    );
  });

  test("a date of lists that somebody doesn't see isn't there for them", async () => {
    const odile = await house.signIn(ODILE);
    const id = await make({ title: "Far away", lists: [juggling()] });
    expect((await odile.ask("GET", `/api/dates/${id}`)).status).toBe(404);
    const all = await odile.ask<DateLine[]>("GET", "/api/dates");
    expect(all.body.map(({ title }) => title)).not.toContain("Far away");
    expect((await odile.ask("POST", `/api/dates/${id}/cancel`, {})).status).toBe(404);
  });
});

describe("what can't be", () => {
  test.each<[string, Partial<DateContent>, string]>([
    ["no title", { title: " " }, "Give the date a title"],
    ["no list", { lists: [] }, "Choose at least one list"],
    [
      "an end before its beginning",
      { when: { allDay: false, from: `${DAY}T18:00`, until: `${DAY}T17:00` } },
      "It ends before it begins",
    ],
    [
      "a repetition without end",
      { repeat: { every: "week", step: 1, days: [], until: "2999-01-01" } },
      "at most three years",
    ],
    ["a link that is a program", { link: "javascript:alert(1)" }, ""],
  ])("%s is told in a sentence", async (_what, more, sentence) => {
    const { status, body } = await juno.ask<{ detail: string }>(
      "POST",
      "/api/dates",
      contentOf(more),
    );
    expect([400, 422]).toContain(status);
    expect(body.detail).toContain(sentence);
  });

  test("a title can't add lines to a mail or a calendar", async () => {
    await make({ title: "Tea\r\nBcc: all@oakmail.example\r\nATTENDEE:mailto:x@oakmail.example" });
    const oak = (await got("Invitation: Tea Bcc", 2)).get("oak@oakmail.example");
    expect(oak?.mail.bcc).toBeUndefined();
    expect(oak?.event.getAllProperties("attendee")).toHaveLength(1);
  });

  test("what somebody writes is shown as text on the page of the invited", async () => {
    await make({ title: "<b>Fat</b>", text: "<script>alert(1)</script>" });
    const oak = (await got("Invitation: <b>Fat", 2)).get("oak@oakmail.example");
    const page = await (await fetch(`${house.url}/date/${oak?.token ?? ""}`)).text();
    expect(page).toContain("&lt;script&gt;");
    expect(page).not.toMatch(/<script>alert|<b>Fat/);
  });
});
