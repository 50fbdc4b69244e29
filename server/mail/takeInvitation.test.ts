import nodemailer from "nodemailer";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import type { DateLine } from "@amigo/contract/dates";
import {
  dayFromNow,
  partOf,
  startDatesHouse,
  student,
  type DatesHouse,
} from "../testing/datesHouse";
import { JUNO, until } from "../testing/testHouse";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
  student(3, "Pine", "Tove", "Big Barn", "Juggling One"),
];
const DAY = dayFromNow(20).replaceAll("-", "");
let dates: DatesHouse;
const addresses = new Map<string, string>();
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, dayFromNow(20));
  const all = await dates.juno.ask<{ lists: { title: string; name: string }[] }>(
    "GET",
    "/api/lists/all",
  );
  for (const { title, name } of all.body.lists)
    addresses.set(title, `${name}@lists.copperwheel.example`);
});
afterAll(() => dates?.house.close());
beforeEach(() => dates.turnPage());

const addressOf = (words: RegExp): string => {
  const [, address] = [...addresses].find(([title]) => words.test(title)) ?? [];
  if (address === undefined) throw new Error([...addresses.keys()].join(", "));
  return address;
};
const trapeze = (): string => addressOf(/Trapeze Two.*guardians/i);

interface Sent {
  method?: string;
  lines?: readonly string[];
  uid?: string;
  to?: string[];
  file?: boolean;
  from?: string;
}
/** Sends an invitation as a calendar program does, as Juno from her own mail program. */
async function send(
  subject: string,
  { method = "REQUEST", lines = [], uid = subject, to = [trapeze()], file = false }: Sent = {},
): Promise<void> {
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: dates.house.amigo.ports.submission,
    ignoreTLS: true,
    auth: { user: JUNO, pass: DEMO_PASSWORD },
  });
  await transport.sendMail({
    from: JUNO,
    to,
    subject,
    text: "See you there.",
    icalEvent: {
      method,
      content: [
        "BEGIN:VCALENDAR",
        "VERSION:2.0",
        "PRODID:-//Desk//EN",
        `METHOD:${method}`,
        "BEGIN:VEVENT",
        `UID:${uid}`,
        "DTSTAMP:20261101T000000Z",
        `ORGANIZER:mailto:${JUNO}`,
        ...to.map((one) => `ATTENDEE:mailto:${one}`),
        `SUMMARY:${subject}`,
        `DTSTART:${DAY}T170000Z`,
        `DTEND:${DAY}T180000Z`,
        ...lines,
        "END:VEVENT",
        "END:VCALENDAR",
        "",
      ].join("\r\n"),
    },
    ...(file ? { attachments: [{ filename: "plan.pdf", content: Buffer.from("%PDF-1.4") }] } : {}),
  });
  transport.close();
}
const datesNow = async (title: string): Promise<DateLine[]> =>
  (await dates.juno.ask<DateLine[]>("GET", "/api/dates")).body.filter((one) => one.title === title);

describe("an invitation that is sent to a list", () => {
  test("becomes a date of the list: everybody is invited alone, and their answers go to whoever invited", async () => {
    await send("Tea", { lines: ["LOCATION:Kitchen"] });
    const mails = await dates.got("Invitation: Tea", 2);
    const oak = mails.get("oak@oakmail.example");
    expect(oak?.mail.text).toContain("See you there.");
    expect(partOf(oak, "organizer")).toMatch(/\+date\./);
    expect(oak?.event.getAllProperties("attendee")).toHaveLength(1);
    dates.turnPage();
    await fetch(`${dates.house.url}/date/${oak?.token ?? ""}`, {
      method: "POST",
      body: new URLSearchParams({ answer: "yes", people: "2" }),
    });
    const told = (await dates.got("oak@oakmail.example comes", 1)).get(JUNO);
    expect(told?.method).toBe("REPLY");
    expect(partOf(told, "uid")).toBe("Tea");
    expect(partOf(told, "attendee")).toBe("mailto:oak@oakmail.example");
    expect((await datesNow("Tea"))[0]?.counts).toMatchObject({ yes: 1, people: 2 });
  });

  test("for two lists is one date, and whoever is on both is invited once", async () => {
    await send("Lunch", { to: [trapeze(), addressOf(/Juggling One.*guardians/i)] });
    await dates.got("Invitation: Lunch", 3);
    const [lunch, another] = await datesNow("Lunch");
    expect(another).toBeUndefined();
    expect(lunch?.lists).toHaveLength(2);
  });

  test("is changed and called off by what its writer sends later, and by nobody else", async () => {
    await send("Walk");
    await dates.got("Invitation: Walk", 2);
    await send("Walk", { lines: ["SEQUENCE:1", "LOCATION:Park"] });
    const changed = (await dates.got("Changed: Walk", 2)).get("elm@oakmail.example");
    expect(changed?.mail.text).toContain("the place");
    // What comes late, and is older, changes nothing.
    await send("Walk", { lines: ["SEQUENCE:0", "LOCATION:Cellar"] });
    // A date that was made in Amigo isn't changed by a mail that knows its id.
    const id = await dates.make({ title: "Safe" });
    const { body } = await dates.juno.ask<DateLine[]>("GET", "/api/dates");
    expect(body.find((one) => one.id === id)?.place).toBe("Mill Loft");
    await send("Hijack", { uid: `${id}@lists.copperwheel.example` });
    await dates.house.mailTo("oak@oakmail.example", "Hijack");
    expect((await dates.pageOf(id)).title).toBe("Safe");
    expect((await datesNow("Walk"))[0]?.place).toBe("Park");
    await send("Walk", { method: "CANCEL", lines: ["SEQUENCE:2", "STATUS:CANCELLED"] });
    await dates.got("Called off: Walk", 2);
  });

  test("is changed again by a program that counts its own changes, whatever was changed in Amigo between", async () => {
    await send("Run");
    await dates.got("Invitation: Run", 2);
    const [run] = await datesNow("Run");
    for (const place of ["A", "B", "C"]) {
      const { sequence } = await dates.pageOf(run?.id ?? "");
      const { when, text } = await dates.pageOf(run?.id ?? "");
      await dates.juno.ask("PUT", `/api/dates/${run?.id}`, {
        ...dates.contentOf({ title: "Run", place, when, text }),
        sequence,
      });
    }
    await send("Run", { lines: ["SEQUENCE:1", "LOCATION:Quay"] });
    await until(
      "the place",
      () => datesNow("Run"),
      ([one]) => one?.place === "Quay",
    );
  });

  test.each<[string, Sent]>([
    ["a file beside it", { file: true }],
    ["a repetition that can't be kept", { lines: ["RRULE:FREQ=DAILY;INTERVAL=3;COUNT=5"] }],
    ["a time that is over", { lines: [] }],
    ["an answer to something else", { method: "REPLY" }],
  ])("with %s is mail like any other", async (what, sent) => {
    const subject = `As mail: ${what}`;
    if (what === "a time that is over") {
      const past = `DTSTART:20200101T170000Z`;
      await send(subject, { lines: ["END:VEVENT", "BEGIN:VEVENT", "UID:b", "SUMMARY:b", past] });
    } else await send(subject, sent);
    await until(
      "the mail at both",
      () => dates.house.sink.mails.filter(({ raw }) => String(raw).includes(`Subject: ${subject}`)),
      (mails) => mails.length === 2,
    );
    expect(await datesNow(subject)).toEqual([]);
  });
});
