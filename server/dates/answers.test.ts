import nodemailer from "nodemailer";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { addDays } from "@amigo/core/calendar/when";
import {
  dayFromNow,
  HEAD,
  partOf,
  startDatesHouse,
  student,
  type DatesHouse,
} from "../testing/datesHouse";
import { RAVI, until } from "../testing/testHouse";
import { keepGuestsInStep } from "./keepGuestsInStep";
import { remindGuests } from "./remindGuests";

const FAMILIES = ["Oak", "Elm", "Ash", "Yew"] as const;
/** Two parents of one family, and three of which one is known. */
const ROSTER = [
  ...FAMILIES.map((name, index) => student(index + 1, name, "Ida", "Mill Loft", "Trapeze Two")),
  `CW-1,Oak,Ida,Mill Loft,Trapeze Two,,Sam Oak,sam.oak@lettr.example`,
  student(9, "Pine", "Tove", "Big Barn", "Juggling One"),
];
const DAY = dayFromNow(12);
const address = (name: string): string => `${name.toLowerCase()}@oakmail.example`;

let dates: DatesHouse;
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, DAY);
});
afterAll(() => dates?.house.close());
beforeEach(() => dates.turnPage());

const context = () => dates.house.amigo.context;

/** Makes a date and returns the secrets of its guests' links. */
async function invite(more: Parameters<DatesHouse["make"]>[0], guests = 5) {
  const id = await dates.make(more);
  const mails = await dates.got("Invitation", guests);
  const tokens = new Map([...mails].map(([to, { token }]) => [to, token]));
  dates.turnPage();
  return { id, tokens, mails };
}
async function answer(
  token: string | undefined,
  fields: Record<string, string>,
): Promise<{ status: number; text: string }> {
  const response = await fetch(`${dates.house.url}/date/${token ?? ""}`, {
    method: "POST",
    body: new URLSearchParams(fields),
  });
  return { status: response.status, text: await response.text() };
}
const fileAt = async (path: string): Promise<string> =>
  (await fetch(`${dates.house.url}${path}`, { headers: { cookie: dates.juno.cookie } })).text();
const stands = async (id: string) =>
  Object.fromEntries(
    (await dates.pageOf(id)).guests.map((guest) => [
      guest.address.split("@")[0],
      guest.isWaiting ? "waits" : guest.answer,
    ]),
  );

describe("a date with so many places", () => {
  test("lets in those who come first, and the others wait in line and hear of a free place", async () => {
    const { id, tokens } = await invite({ title: "Tour", places: 4 });
    await answer(tokens.get(address("Oak")), { answer: "yes", people: "3" });
    const late = await answer(tokens.get(address("Elm")), { answer: "yes", people: "2" });
    expect(late.text).toContain("You are on the waiting list");
    // One who fits goes ahead, so that no place stays empty.
    const small = await answer(tokens.get(address("Ash")), { answer: "yes", people: "1" });
    expect(small.text).toContain("Thank you");
    expect(await stands(id)).toMatchObject({ oak: "yes", elm: "waits", ash: "yes" });
    const page = await dates.pageOf(id);
    expect(page.counts).toMatchObject({
      yes: 2,
      waiting: 1,
      people: 4,
      silent: 1,
      addresses: 5,
    });

    // Nobody brings more people along than there are places.
    const more = await answer(tokens.get(address("Ash")), { answer: "yes", people: "2" });
    expect(more.status).toBe(409);
    expect(more.text).toContain("All places are taken");
    expect((await dates.pageOf(id)).counts.people).toBe(4);

    await answer(tokens.get(address("Oak")), { answer: "no" });
    const moved = (await dates.got("You have a place: Tour", 1)).get(address("Elm"));
    expect(partOf(moved, "summary")).toBe("Tour");
    expect(moved?.event.getFirstProperty("attendee")?.getParameter("partstat")).toBe("ACCEPTED");
    expect(await stands(id)).toMatchObject({ oak: "no", elm: "yes", ash: "yes" });
    expect(await keepGuestsInStep(context())).toBe(0);
  });

  test("gives the places of whoever leaves the list to those who wait, and more places to all", async () => {
    const { id, tokens } = await invite({ title: "Boat", places: 1 });
    for (const name of FAMILIES) await answer(tokens.get(address(name)), { answer: "yes" });
    expect(await stands(id)).toMatchObject({
      oak: "yes",
      elm: "waits",
      ash: "waits",
      yew: "waits",
    });
    const { sequence } = await dates.pageOf(id);
    const changed = await dates.juno.ask("PUT", `/api/dates/${id}`, {
      ...dates.contentOf({ title: "Boat", places: 2 }),
      sequence,
    });
    expect(changed.status).toBe(200);
    expect([...(await dates.got("You have a place", 1)).keys()]).toEqual([address("Elm")]);
    dates.turnPage();

    await dates.house.readLines(
      dates.juno,
      [HEAD, ...ROSTER.filter((line) => !line.includes("Oak,"))],
      { id: dates.source },
    );
    await dates.house.step(dates.juno);
    expect([...(await dates.got("You have a place", 1)).keys()]).toEqual([address("Ash")]);

    // Whoever comes back stands at the end of the line.
    await dates.house.readLines(dates.juno, [HEAD, ...ROSTER], { id: dates.source });
    await dates.house.step(dates.juno);
    await until(
      "Oak in line again",
      () => stands(id),
      (all) => all.oak === "waits",
    );
    expect(await stands(id)).toMatchObject({ elm: "yes", ash: "yes", yew: "waits" });
  });

  test("tells whoever answered by their calendar program that they wait", async () => {
    const { id, tokens, mails } = await invite({ title: "Van", places: 1 });
    await answer(tokens.get(address("Oak")), { answer: "yes" });
    const elm = mails.get(address("Elm"));
    await reply(partOf(elm, "organizer").replace(/^mailto:/i, ""), address("Elm"), [
      "METHOD:REPLY",
      `UID:${partOf(elm, "uid")}`,
      `ATTENDEE;PARTSTAT=ACCEPTED:mailto:${address("Elm")}`,
    ]);
    const told = (await dates.got("On the waiting list: Van", 1)).get(address("Elm"));
    expect(told?.mail.text).toContain("All places");
    expect(told?.event.getFirstProperty("attendee")?.getParameter("partstat")).toBe("TENTATIVE");
    expect(await stands(id)).toMatchObject({ elm: "waits" });
  });
});

async function reply(to: string, from: string, [method = "", ...lines]: string[]): Promise<void> {
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: dates.house.amigo.ports.incoming,
    ignoreTLS: true,
  });
  await transport.sendMail({
    from,
    to,
    subject: "Answer",
    text: "",
    icalEvent: {
      method: method.slice(7),
      content: [
        "BEGIN:VCALENDAR",
        "VERSION:2.0",
        method,
        "BEGIN:VEVENT",
        ...lines,
        "END:VEVENT",
        "END:VCALENDAR",
        "",
      ].join("\r\n"),
    },
  });
  transport.close();
}

describe("those who haven't answered", () => {
  test("are asked again by families: one parent's answer is enough, and each is asked once", async () => {
    const { id, tokens } = await invite({ title: "Fair" });
    await answer(tokens.get("sam.oak@lettr.example"), { answer: "no", word: "Away" });
    expect((await dates.pageOf(id)).toAsk).toBe(3);
    const asked = await dates.juno.ask("POST", `/api/dates/${id}/ask-again`);
    expect(asked.body).toEqual({ addresses: 3 });
    const mails = await dates.got("Please answer: Fair", 3);
    expect([...mails.keys()].sort()).toEqual(["Elm", "Ash", "Yew"].map(address).sort());
    expect(mails.get(address("Elm"))?.mail.text).toContain("?answer=no");
    expect(await keepGuestsInStep(context())).toBe(0);
    expect((await dates.pageOf(id)).askedAt).not.toBeNull();
  });

  test("stand in the file and on paper with the others", async () => {
    const { id, tokens } = await invite({ title: "Play" });
    await answer(tokens.get(address("Ash")), { answer: "yes", people: "2", word: "=1+1" });
    const csv = await fileAt(`/api/dates/${id}/guests.csv`);
    expect(csv).toMatch(
      /Robin Ash,ash@oakmail.example,[^,]*(?:,[^,]*)?Trapeze Two.*Comes,2,'=1\+1/,
    );
    expect(csv.trim().split("\r\n")).toHaveLength(6);
    const pdf = await fileAt(`/api/dates/${id}/guests.pdf`);
    expect(pdf.startsWith("%PDF")).toBe(true);
  });
});

describe("reminders", () => {
  const before = (days: number, time: string): Date =>
    new Date(`${addDays(DAY, -days)}T${time}:00Z`);

  test("come once, some days before, to those who may come, with what they said", async () => {
    const { tokens } = await invite({ title: "Gala", reminders: [1, 7] });
    await answer(tokens.get(address("Oak")), { answer: "yes" });
    await answer(tokens.get(address("Elm")), { answer: "no" });
    await answer(tokens.get(address("Ash")), { answer: "maybe", remind: "never" });
    await answer(tokens.get(address("Yew")), { answer: "yes", remind: "3" });
    expect(await remindGuests(context(), before(7, "17:00"))).toBe(0);
    expect(await remindGuests(context(), before(7, "18:01"))).toBe(2);
    expect(await remindGuests(context(), before(7, "18:02"))).toBe(0);
    const mails = await dates.got("Reminder: Gala", 2);
    expect(mails.get(address("Oak"))?.mail.text).toContain("Your answer: Yes");
    expect(mails.get("sam.oak@lettr.example")?.mail.text).toContain("?answer=yes");
    dates.turnPage();
    expect(await remindGuests(context(), before(3, "18:01"))).toBe(1);
    expect([...(await dates.got("Reminder: Gala", 1)).keys()]).toEqual([address("Yew")]);
    // A machine that was off has one reminder to catch up on, not two; and none once it has begun.
    expect(await remindGuests(context(), before(0, "17:00"))).toBe(2);
    expect(await remindGuests(context(), before(0, "18:30"))).toBe(0);
  });
});

describe("a repeated date", () => {
  test("has a time moved and another dropped, and everybody hears of it", async () => {
    const { id } = await invite({
      title: "Course",
      repeat: { every: "week", step: 1, days: [], until: addDays(DAY, 21) },
    });
    const change = async (day: string, to: unknown) => {
      const { sequence } = await dates.pageOf(id);
      return dates.juno.ask<{ detail?: string }>("PUT", `/api/dates/${id}/times/${day}`, {
        to,
        sequence,
      });
    };
    const moved = {
      allDay: false,
      from: `${addDays(DAY, 8)}T10:00`,
      until: `${addDays(DAY, 8)}T11:00`,
    };
    expect((await change(addDays(DAY, 7), moved)).status).toBe(200);
    await dates.got("Changed: Course", 5);
    dates.turnPage();
    expect((await change(addDays(DAY, 14), "dropped")).status).toBe(200);
    const mail = (await dates.got("Changed: Course", 5)).get(address("Oak"));
    const calendar = mail?.event.parent;
    const events = calendar?.getAllSubcomponents("vevent") ?? [];
    expect(events).toHaveLength(2);
    expect(String(events[0]?.getFirstPropertyValue("exdate"))).toBe(`${addDays(DAY, 14)}T18:00:00`);
    expect(String(events[1]?.getFirstPropertyValue("recurrence-id"))).toBe(
      `${addDays(DAY, 7)}T18:00:00`,
    );
    expect(String(events[1]?.getFirstPropertyValue("dtstart"))).toBe(`${addDays(DAY, 8)}T10:00:00`);
    const page = await dates.pageOf(id);
    expect(page.next.map(({ when }) => when.from)).toEqual([
      `${DAY}T18:00`,
      moved.from,
      `${addDays(DAY, 21)}T18:00`,
    ]);
    expect(page.dropped).toEqual([addDays(DAY, 14)]);
    expect((await change(addDays(DAY, 14), "planned")).status).toBe(200);
    expect((await dates.pageOf(id)).next).toHaveLength(4);
    // What isn't a time of it, and one that ends before it begins, are refused.
    expect((await change(addDays(DAY, 1), "dropped")).status).toBe(404);
    expect(
      (await change(DAY, { allDay: false, from: `${DAY}T18:00`, until: `${DAY}T17:00` })).status,
    ).toBe(422);
  });

  test("that is a single one can't lose its only time", async () => {
    const { id } = await invite({
      title: "Once",
      repeat: { every: "week", step: 1, days: [], until: DAY },
    });
    const { sequence } = await dates.pageOf(id);
    const { status, body } = await dates.juno.ask<{ detail: string }>(
      "PUT",
      `/api/dates/${id}/times/${DAY}`,
      { to: "dropped", sequence },
    );
    expect(status).toBe(422);
    expect(body.detail).toContain("Call the whole date off");
  });
});

describe("another time", () => {
  test("that a calendar program proposes stands beside the answer until the date is moved", async () => {
    const { id, mails } = await invite({ title: "Talk" });
    const yew = mails.get(address("Yew"));
    await reply(partOf(yew, "organizer").replace(/^mailto:/i, ""), address("Yew"), [
      "METHOD:COUNTER",
      `UID:${partOf(yew, "uid")}`,
      `DTSTART:${DAY.replaceAll("-", "")}T190000Z`,
      `DTEND:${DAY.replaceAll("-", "")}T200000Z`,
      "COMMENT:Could we begin later?",
      `ATTENDEE;PARTSTAT=TENTATIVE:mailto:${address("Yew")}`,
    ]);
    const proposal = async () =>
      (await dates.pageOf(id)).guests.find((guest) => guest.address === address("Yew"));
    await until("a proposal", proposal, (guest) => guest?.proposes != null);
    expect(await proposal()).toMatchObject({
      answer: "maybe",
      word: "Could we begin later?",
      proposes: { allDay: false, from: `${DAY}T19:00`, until: `${DAY}T20:00` },
    });
    const { sequence } = await dates.pageOf(id);
    await dates.juno.ask("PUT", `/api/dates/${id}`, {
      ...dates.contentOf({
        title: "Talk",
        when: { allDay: false, from: `${DAY}T19:00`, until: `${DAY}T20:00` },
      }),
      sequence,
    });
    expect((await proposal())?.proposes).toBeNull();
  });

  test("is declined: the guest hears that the date stays, and their program, too", async () => {
    const { id, mails } = await invite({ title: "Visit" });
    const elm = mails.get(address("Elm"));
    await reply(partOf(elm, "organizer").replace(/^mailto:/i, ""), address("Elm"), [
      "METHOD:COUNTER",
      `UID:${partOf(elm, "uid")}`,
      `DTSTART:${DAY.replaceAll("-", "")}T190000Z`,
      `DTEND:${DAY.replaceAll("-", "")}T200000Z`,
      `ATTENDEE:mailto:${address("Elm")}`,
    ]);
    const proposal = async () =>
      (await dates.pageOf(id)).guests.find((guest) => guest.address === address("Elm"))?.proposes;
    await until("a proposal", proposal, (proposes) => proposes != null);
    const decline = async (guest: string, client = dates.juno): Promise<number> =>
      (await client.ask("POST", `/api/dates/${id}/decline-proposal`, { address: guest })).status;
    expect(await decline("nobody@oakmail.example")).toBe(404);
    expect(await decline(address("Yew"))).toBe(409);
    expect(await decline(address("Elm"), await dates.house.signIn(RAVI))).toBe(404);
    expect(await decline(address("Elm"))).toBe(200);
    expect(await proposal()).toBeNull();
    const told = (await dates.got("Not moved: Visit", 1)).get(address("Elm"));
    expect([told?.method, partOf(told, "uid")]).toEqual(["DECLINECOUNTER", partOf(elm, "uid")]);
    expect(told?.mail.text).toContain("The date stays where it is.");
    expect(await decline(address("Elm"))).toBe(409);
  });
});
