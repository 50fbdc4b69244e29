import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { DateImport } from "@amigo/contract/dateImport";
import type { DateLine } from "@amigo/contract/dates";
import { dayFromNow, startDatesHouse, student, type DatesHouse } from "../testing/datesHouse";
import { ODILE } from "../testing/testHouse";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
  student(3, "Pine", "Tove", "Big Barn", "Juggling One"),
];
const [FIRST, SECOND, THIRD] = [dayFromNow(10), dayFromNow(17), dayFromNow(24)];
let dates: DatesHouse;
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, FIRST);
});
afterAll(() => dates?.house.close());
beforeEach(() => dates.turnPage());

const sheet = (...rows: string[]): string =>
  ["Date,Kick-off,Opponent,Venue,Team", ...rows].join("\n");
async function send(
  text: string | Uint8Array<ArrayBuffer>,
  fields: Record<string, string> = {},
  cookie = dates.juno.cookie,
): Promise<{ status: number; body: DateImport & { detail?: string } }> {
  const form = new FormData();
  for (const [key, value] of Object.entries({ name: "Fixtures", group: "guardians", ...fields }))
    form.set(key, value);
  form.set("file", new File([text], "fixtures.csv"));
  const response = await fetch(`${dates.house.url}/api/dates/import`, {
    method: "POST",
    body: form,
    headers: { Cookie: cookie, Origin: dates.house.url },
  });
  return { status: response.status, body: (await response.json()) as DateImport };
}
/** Shows what would be done, and does it. */
async function importAll(text: string, fields: Record<string, string> = {}): Promise<DateImport> {
  const { body } = await send(text, fields);
  const done = await send(text, { ...fields, plan: body.plan });
  expect([done.status, done.body.done]).toEqual([200, true]);
  expect(done.body.lines).toEqual(body.lines);
  return done.body;
}
const stepsOf = ({ lines }: DateImport) => lines.map(({ step, title }) => `${step} ${title}`);
const datesNow = async (): Promise<DateLine[]> =>
  (await dates.juno.ask<DateLine[]>("GET", "/api/dates")).body;

describe("a fixture list", () => {
  const first = sheet(
    `${FIRST},14:00,Ashford,Ashford Hall,Trapeze Two`,
    `${SECOND},10:00 - 12:00,Tollgate,Mill Loft,Trapeze Two`,
    `${SECOND},18:00,Harbour,Barn,Juggling One`,
    `2020-01-01,18:00,Long ago,Barn,Juggling One`,
    `${THIRD},18:00,Nobody,Barn,No Such Team`,
    `some day,18:00,Unread,Barn,Trapeze Two`,
  );

  test("is shown before anything is made, each row with its team's list or the reason why not", async () => {
    const { body } = await send(first);
    expect(body.lines.map(({ step, title, list }) => [step, title, list])).toEqual([
      ["new", "Ashford", "Trapeze Two, guardians"],
      ["new", "Tollgate", "Trapeze Two, guardians"],
      ["new", "Harbour", "Juggling One, guardians"],
      ["left out", "Long ago", ""],
      ["left out", "Nobody", ""],
      ["left out", "some day", ""],
    ]);
    expect(body.lines[4]?.note).toContain("No Such Team");
    expect(body.lines[5]).toMatchObject({ row: 7 });
    expect(body.done).toBe(false);
    expect(await datesNow()).toEqual([]);
  });

  test("makes each row a date of its team's list, whose members are invited", async () => {
    await importAll(first);
    const mails = await dates.got("Invitation: Ashford", 2);
    expect(mails.get("oak@oakmail.example")?.mail.text).toContain("Ashford Hall");
    expect([...(await dates.got("Invitation: Harbour", 1)).keys()]).toEqual([
      "pine@oakmail.example",
    ]);
    expect((await datesNow()).map(({ title, when }) => [title, when.from])).toEqual([
      ["Ashford", `${FIRST}T14:00`],
      ["Tollgate", `${SECOND}T10:00`],
      ["Harbour", `${SECOND}T18:00`],
    ]);
  });

  test("read again, moves what has moved, calls off what is gone, and leaves the rest", async () => {
    const again = sheet(
      `${FIRST},14:00,Ashford,Ashford Hall,Trapeze Two`,
      `${THIRD},10:00 - 12:00,Tollgate,Big Barn,Trapeze Two`,
      `${THIRD},19:00,Summit,Barn,Juggling One`,
    );
    const done = await importAll(again);
    expect(stepsOf(done)).toEqual([
      "same Ashford",
      "changed Tollgate",
      "new Summit",
      "gone Harbour",
    ]);
    const moved = (await dates.got("Changed: Tollgate", 2)).get("elm@oakmail.example");
    expect(moved?.mail.text).toContain("the time");
    await dates.got("Called off: Harbour", 1);
    await dates.got("Invitation: Summit", 1);
    expect(stepsOf(await importAll(again))).toEqual([
      "same Ashford",
      "same Tollgate",
      "same Summit",
    ]);
    // Under another name it is another list, whose dates are others.
    expect(stepsOf((await send(again, { name: "Another" })).body)[0]).toBe("new Ashford");
  });

  test("leaves what was added to a date in Amigo: another list, people, places, a place", async () => {
    const text = (time: string): string =>
      ["Date,Time,Home,Away", `${FIRST},${time},Visitors FC,Juggling One`].join("\n");
    expect(stepsOf(await importAll(text("14:00"), { name: "Cup" }))).toEqual([
      "new Visitors FC – Juggling One",
    ]);
    const [cup] = (await datesNow()).filter(({ title }) => title.startsWith("Visitors"));
    const page = await dates.pageOf(cup?.id ?? "");
    const robin = await dates.juno.ask<{ kind: string; id: string }[]>(
      "GET",
      "/api/targets?q=Robin Elm",
    );
    const added = {
      title: page.title,
      text: "Bring water.",
      place: "Roof",
      when: page.when,
      lists: [dates.listOf(/Juggling One.*guardians/i), dates.listOf(/Trapeze Two.*coaches/i)],
      people: robin.body.filter(({ kind }) => kind === "person").map(({ id }) => id),
      places: 9,
    };
    const changed = await dates.juno.ask("PUT", `/api/dates/${page.id}`, {
      ...dates.contentOf(added),
      sequence: page.sequence,
    });
    expect(changed.status).toBe(200);
    expect(stepsOf(await importAll(text("15:00"), { name: "Cup" }))).toEqual([
      "changed Visitors FC – Juggling One",
    ]);
    const after = await dates.pageOf(page.id);
    expect(after.when.from).toBe(`${FIRST}T15:00`);
    expect(after).toMatchObject({ text: "Bring water.", place: "Roof", places: 9 });
    expect([after.lists.length, after.people.length]).toEqual([2, 1]);
  });

  test("isn't carried out where what was shown is no longer so", async () => {
    const text = sheet(`${FIRST},15:00,Late,Barn,Trapeze Two`);
    const { body } = await send(text, { name: "Late" });
    const other = await send(sheet(`${FIRST},16:00,Late,Barn,Trapeze Two`), {
      name: "Late",
      plan: body.plan,
    });
    expect(other.status).toBe(409);
    expect((await datesNow()).map(({ title }) => title)).not.toContain("Late");
  });

  test("goes by the rules: nobody invites a list that they don't see", async () => {
    const odile = await dates.house.signIn(ODILE);
    const { body } = await send(first, { name: "Odile's" }, odile.cookie);
    expect(body.lines.find(({ title }) => title === "Harbour")).toMatchObject({ step: "left out" });
    expect(body.lines.find(({ title }) => title === "Ashford")).toMatchObject({ step: "new" });
  });
});

describe("a calendar file", () => {
  const event = (uid: string, title: string, ...lines: string[]): string =>
    [
      "BEGIN:VEVENT",
      `UID:${uid}`,
      `SUMMARY:${title}`,
      `DTSTART:${FIRST.replaceAll("-", "")}T100000Z`,
      ...lines,
      "END:VEVENT",
    ].join("\r\n");
  const file = (...events: string[]): string =>
    ["BEGIN:VCALENDAR", "VERSION:2.0", ...events, "END:VCALENDAR", ""].join("\r\n");

  test("gives its dates to the list that is chosen, and says which it can't keep", async () => {
    const list = dates.listOf(/Trapeze Two.*guardians/i);
    const text = file(event("a", "League A"), event("b", "Odd", "RRULE:FREQ=DAILY;INTERVAL=3"));
    expect(stepsOf((await send(text, { name: "League" })).body)).toEqual([
      "left out League A",
      "left out Odd",
    ]);
    const done = await importAll(text, { name: "League", list });
    expect(stepsOf(done)).toEqual(["new League A", "left out Odd"]);
    await dates.got("Invitation: League A", 2);
    const renamed = await importAll(file(event("a", "League B")), { name: "League", list });
    expect(stepsOf(renamed)).toEqual(["changed League B"]);
    await dates.got("Changed: League B", 2);
  });
});

describe("a calendar file of another office", () => {
  test("is read in the encoding that it is written in, and its hostile parts are text", async () => {
    const list = dates.listOf(/Trapeze Two.*guardians/i);
    const text = [
      "BEGIN:VCALENDAR",
      "VERSION:2.0",
      "BEGIN:VEVENT",
      "UID:x",
      `DTSTART;VALUE=DATE:${FIRST.replaceAll("-", "")}`,
      "SUMMARY:Fête <script>alert(1)</script>",
      "URL:javascript:alert(1)",
      "END:VEVENT",
      "END:VCALENDAR",
      "",
    ].join("\r\n");
    const { body } = await send(new Uint8Array(Buffer.from(text, "latin1")), { name: "Old", list });
    expect(body.lines).toMatchObject([
      { step: "new", title: "Fête <script>alert(1)</script>", when: { allDay: true } },
    ]);
  });
});

describe("what is no list of dates", () => {
  test.each<[string, string]>([
    ["an empty file", ""],
    ["a roster", "Surname,First name\nOak,Ida"],
    ["a page", "<html><table><tr><td>Date</td></tr></table></html>"],
    ["a broken calendar", "BEGIN:VCALENDAR\r\nBEGIN:VEVENT"],
    ["a calendar without dates", "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n"],
  ])("%s is refused with a sentence", async (_, text) => {
    const { status, body } = await send(text);
    expect(status).toBe(422);
    expect(body.detail).toMatch(/\.$/);
  });
});
