import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { DateImport } from "@amigo/contract/dateImport";
import type { DateWatch } from "@amigo/contract/dateWatches";
import type { DateLine } from "@amigo/contract/dates";
import type { Pulse } from "@amigo/contract/house";
import { lookAtWatches } from "./lookAtWatches";
import { dayFromNow, startDatesHouse, student, type DatesHouse } from "../testing/datesHouse";
import { ODILE, type Client } from "../testing/testHouse";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Pine", "Tove", "Big Barn", "Juggling One"),
];
let dates: DatesHouse;
let server: Server;
let origin = "";
let asked = 0;
let answer: (request: IncomingMessage, response: ServerResponse) => void = () => undefined;

beforeAll(async () => {
  server = createServer((request, response) => {
    asked++;
    answer(request, response);
  });
  await new Promise<void>((resolve) => {
    server.listen(0, "127.0.0.1", resolve);
  });
  const { port } = server.address() as AddressInfo;
  origin = `http://127.0.0.1:${port}`;
  dates = await startDatesHouse(ROSTER, dayFromNow(9), {
    AMIGO_ALLOWED_HOSTS: `127.0.0.1:${port}`,
  });
});
afterAll(async () => {
  await dates?.house.close();
  await new Promise((resolve) => {
    server.close(resolve);
    server.closeAllConnections();
  });
});

/** A calendar with events of a day from now and a title each. */
const calendar = (...events: [string, number, string][]): string =>
  [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//Harbour League//Fixtures//EN",
    ...events.flatMap(([uid, ahead, title]) => [
      "BEGIN:VEVENT",
      `UID:${uid}@league.example`,
      "DTSTAMP:20260101T000000Z",
      `DTSTART:${dayFromNow(ahead).replaceAll("-", "")}T140000Z`,
      `DTEND:${dayFromNow(ahead).replaceAll("-", "")}T160000Z`,
      `SUMMARY:${title}`,
      "END:VEVENT",
    ]),
    "END:VCALENDAR",
    "",
  ].join("\r\n");
const send = (text: string, tag = ""): void => {
  answer = ({ headers }, response) => {
    if (tag !== "" && headers["if-none-match"] === tag) response.writeHead(304).end();
    else response.writeHead(200, tag === "" ? {} : { ETag: tag }).end(text);
  };
};
const list = (): string => dates.listOf(/Trapeze Two.*guardians/i);
const watch = (more: Record<string, string> = {}, client: Client = dates.juno) =>
  client.ask<{ id: string; detail: string }>("POST", "/api/dates/watches", {
    name: "League",
    address: `${origin}/league.ics`,
    list: list(),
    ...more,
  });
const watches = async (client = dates.juno): Promise<DateWatch[]> =>
  (await client.ask<DateWatch[]>("GET", "/api/dates/watches")).body;
const read = (id: string, plan = "", client = dates.juno) =>
  client.ask<DateImport & { detail: string }>("POST", `/api/dates/watches/${id}/read`, { plan });
const pulse = async (): Promise<Pulse> => (await dates.juno.ask<Pulse>("GET", "/api/pulse")).body;
const titles = async (): Promise<string[]> =>
  (await dates.juno.ask<DateLine[]>("GET", "/api/dates")).body
    .filter(({ isCancelled }) => !isCancelled)
    .map(({ title }) => title)
    .sort();
/** The worker looks at the addresses when they are due: now, and not once more by itself. */
async function look(): Promise<void> {
  await dates.house.amigo.context.db.execute(
    sql`update calendar_watch set next_at = now() - interval '1 minute'`,
  );
  await lookAtWatches(dates.house.amigo.context);
}

describe("a web address with dates", () => {
  let id = "";
  test("is watched only if it has dates that can be read, and isn't inside Amigo's own network", async () => {
    answer = (_, response) => response.writeHead(404).end();
    expect((await watch()).status).toBe(422);
    send("<html>Sign in</html>");
    expect((await watch()).status).toBe(422);
    expect((await watch({ address: "http://127.0.0.1:1/x.ics" })).body.detail).toContain("inside");
    expect((await watch({ address: "file:///etc/passwd" })).status).toBe(422);
    expect(await watches()).toEqual([]);
    send(calendar(["a", 9, "Ashford"], ["b", 16, "Tollgate"]), '"1"');
    const made = await watch();
    expect(made.status).toBe(200);
    id = made.body.id;
    expect((await watch()).status).toBe(409);
  });

  test("is looked at by itself: what is new waits for a review, and nobody is invited before", async () => {
    await look();
    expect(await watches()).toMatchObject([{ name: "League", waiting: 2, fault: "" }]);
    expect((await pulse()).dates).toBe(2);
    expect(await titles()).toEqual([]);
    const { body } = await read(id);
    expect(body.lines.map(({ step, title }) => `${step} ${title}`)).toEqual([
      "new Ashford",
      "new Tollgate",
    ]);
    const done = await read(id, body.plan);
    expect(done.body.done).toBe(true);
    expect(await titles()).toEqual(["Ashford", "Tollgate"]);
    await dates.got("Invitation: Ashford", 1);
    expect((await pulse()).dates).toBe(0);
  });

  test("that hasn't changed is asked for only whether it has, and has nothing to review", async () => {
    await look();
    const before = asked;
    await look();
    expect(asked - before).toBe(1);
    expect((await watches())[0]?.waiting).toBe(0);
    expect((await watches())[0]?.lookedAt).not.toBeNull();
  });

  test("that has changed shows what moved and what is gone; what changes in between is refused", async () => {
    send(calendar(["a", 10, "Ashford"]), '"2"');
    await look();
    expect((await watches())[0]?.waiting).toBe(2);
    const { body } = await read(id);
    expect(body.lines.map(({ step, title, note }) => `${step} ${title} ${note}`)).toEqual([
      "changed Ashford the time",
      expect.stringContaining("gone Tollgate"),
    ]);
    send(calendar(["a", 11, "Ashford"]));
    expect((await read(id, body.plan)).status).toBe(409);
    const again = await read(id);
    expect((await read(id, again.body.plan)).status).toBe(200);
    expect(await titles()).toEqual(["Ashford"]);
    await dates.got("Called off: Tollgate", 1);
  });

  test("that fails three times in a row says so on top of every page, until it works again", async () => {
    answer = (_, response) => response.writeHead(503).end();
    await look();
    await look();
    expect((await pulse()).failingDates).toEqual([]);
    await look();
    expect((await pulse()).failingDates).toMatchObject([{ id, name: "League" }]);
    expect((await watches())[0]?.fault).toContain("503");
    send(calendar(["a", 11, "Ashford"]));
    await look();
    expect((await pulse()).failingDates).toEqual([]);
    expect((await watches())[0]?.fault).toBe("");
  });

  test("belongs to whoever watches it", async () => {
    const odile = await dates.house.signIn(ODILE);
    expect(await watches(odile)).toEqual([]);
    expect((await read(id, "", odile)).status).toBe(404);
    expect((await odile.ask("DELETE", `/api/dates/watches/${id}`)).status).toBe(404);
    // Under the same name somebody else has another one, for the lists that they may write to.
    const hers = await watch({ list: dates.listOf(/Juggling One.*guardians/i) }, odile);
    expect(hers.status).toBe(200);
    const { body } = await read(hers.body.id, "", odile);
    expect(body.lines.map(({ step }) => step)).toEqual(["left out"]);
  });

  test("is left alone once somebody stops watching it, or their account ends; its dates stay", async () => {
    expect((await dates.juno.ask("DELETE", `/api/dates/watches/${id}`)).status).toBe(200);
    expect(await watches()).toEqual([]);
    expect(await titles()).toEqual(["Ashford"]);
    await dates.house.amigo.context.db.execute(
      sql`update account set ended_at = now() where email = ${ODILE}`,
    );
    const before = asked;
    await look();
    expect(asked).toBe(before);
  });
});
