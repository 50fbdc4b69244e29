import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { readEvents } from "@amigo/core/calendar/readEvents";
import { dayFromNow, HEAD, startDatesHouse, student, type DatesHouse } from "../testing/datesHouse";
import { ODILE, RAVI, until, type Client } from "../testing/testHouse";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
  student(3, "Pine", "Tove", "Big Barn", "Juggling One"),
];
let dates: DatesHouse;
let odile: Client;
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, dayFromNow(20));
  odile = await dates.house.signIn(ODILE);
  await dates.make({ title: "Rehearsal" });
  await dates.make({ title: "Barn dance", lists: [juggling()] });
  await dates.got("Invitation", 3);
});
afterAll(() => dates?.house.close());
beforeEach(() => dates.turnPage());

const trapeze = (): string => dates.listOf(/Trapeze Two.*guardians/i);
const juggling = (): string => dates.listOf(/Juggling One.*guardians/i);
async function feed(of: { kind: string; list?: string }, client = dates.juno): Promise<string> {
  const { status, body } = await client.ask<{ url: string }>("POST", "/api/feeds", of);
  return status === 200 ? body.url : `${status}`;
}
async function read(url: string, tag = "") {
  const response = await fetch(url, { headers: tag === "" ? {} : { "If-None-Match": tag } });
  const text = await response.text();
  const events = readEvents(text, "UTC");
  return {
    status: response.status,
    tag: response.headers.get("etag") ?? "",
    text,
    titles: events.ok ? events.events.map(({ title }) => title) : [],
  };
}

describe("the secret address of a calendar", () => {
  test("has the dates of a list, of the whole house, or those that its owner sees, and names no guest", async () => {
    const list = await read(await feed({ kind: "list", list: trapeze() }));
    expect(list.titles).toEqual(["Rehearsal"]);
    expect(list.text).not.toMatch(/ATTENDEE|ORGANIZER|@oakmail/);
    expect(list.text).toMatch(/^NAME:Trapeze Two/m);
    expect((await read(await feed({ kind: "house" }))).titles.sort()).toEqual([
      "Barn dance",
      "Rehearsal",
    ]);
    expect((await read(await feed({ kind: "account" }, odile))).titles).toEqual(["Rehearsal"]);
  });

  test("of the house leaves out what somebody made for people alone", async () => {
    const { body } = await dates.juno.ask<{ kind: string; id: string }[]>(
      "GET",
      "/api/targets?q=Robin Oak",
    );
    const people = body.filter(({ kind }) => kind === "person").map(({ id }) => id);
    await dates.make({ title: "Private talk", lists: [], people });
    await dates.got("Invitation: Private talk", 1);
    const house = await read(await feed({ kind: "house" }));
    expect(house.titles).not.toContain("Private talk");
    expect((await read(await feed({ kind: "account" }))).titles).toContain("Private talk");
    const { body: mine } = await dates.juno.ask<{ id: string; title: string }[]>(
      "GET",
      "/api/dates",
    );
    const talk = mine.find(({ title }) => title === "Private talk");
    await dates.juno.ask("POST", `/api/dates/${talk?.id}/cancel`, { reason: "" });
    // Only then is it out of everybody's calendar.
    await dates.got("Called off: Private talk", 1);
  });

  test("is made by whoever sees the list alone; that of the house by coordinators", async () => {
    expect(await feed({ kind: "list", list: juggling() }, odile)).toBe("404");
    expect(await feed({ kind: "house" }, odile)).toBe("403");
    const ravi = await dates.house.signIn(RAVI);
    expect(await feed({ kind: "list", list: trapeze() }, ravi)).toBe("404");
    expect(await feed({ kind: "list" })).toBe("404");
  });

  test("is answered with nothing while nothing has changed, and anew as soon as anything has", async () => {
    const url = await feed({ kind: "list", list: trapeze() });
    const first = await read(url);
    expect(await read(url, first.tag)).toMatchObject({ status: 304, text: "" });
    expect(await read(url, `"other", W/${first.tag}`)).toMatchObject({ status: 304 });
    const id = await dates.make({ title: "Extra" });
    const second = await read(url, first.tag);
    expect([second.status, second.titles.sort()]).toEqual([200, ["Extra", "Rehearsal"]]);
    const { sequence } = await dates.pageOf(id);
    await dates.juno.ask("PUT", `/api/dates/${id}`, {
      ...dates.contentOf({ title: "Extra", place: "Roof" }),
      sequence,
    });
    const third = await read(url, second.tag);
    expect(third.text).toContain("LOCATION:Roof");
    await dates.juno.ask("POST", `/api/dates/${id}/cancel`, { reason: "" });
    expect((await read(url, third.tag)).text).toContain("STATUS:CANCELLED");
  });

  test("leads nowhere once it is replaced or ended", async () => {
    const old = await feed({ kind: "account" });
    const url = await feed({ kind: "account" });
    expect(url).not.toBe(old);
    expect((await read(old)).status).toBe(404);
    expect((await read(url)).status).toBe(200);
    const shown = await dates.juno.ask<{ url: string }>("GET", "/api/feeds?kind=account");
    expect(shown.body.url).toBe(url);
    await dates.juno.ask("DELETE", "/api/feeds?kind=account");
    expect((await read(url)).status).toBe(404);
    expect((await read(url.replace(/[^/]+\.ics$/, "nobody.ics"))).status).toBe(404);
  });
});

describe("a member", () => {
  test("sees what they are invited to, and has it as a calendar that follows their lists", async () => {
    const oak = dates.house.client();
    await oak.ask("POST", "/api/member/link", { address: "oak@oakmail.example" });
    const letter = await dates.house.mailTo("oak@oakmail.example", "Open your page");
    const [, token = ""] = /\/member\/([\w-]+)/.exec(letter) ?? [];
    await oak.ask("POST", "/api/member/enter", { token });
    const mine = async () =>
      (
        await oak.ask<{ url: string; dates: { title: string; path: string }[] }>(
          "GET",
          "/api/member/dates",
        )
      ).body;
    expect((await mine()).dates.map(({ title }) => title)).toEqual(["Rehearsal"]);
    expect((await mine()).url).toBe("");
    const { body } = await oak.ask<{ url: string }>("POST", "/api/member/feed", {});
    // What other tests have called off is out of it once everybody was told.
    await until(
      "their calendar",
      () => read(body.url),
      ({ titles }) => titles.join() === "Rehearsal",
    );
    const [first] = (await mine()).dates;
    await fetch(`${dates.house.url}${first?.path ?? ""}`, {
      method: "POST",
      body: new URLSearchParams({ answer: "yes" }),
    });
    expect((await mine()).dates[0]).toMatchObject({ answer: "yes", isWaiting: false });

    // Who leaves the list has no dates of it any more.
    await dates.house.readLines(dates.juno, [HEAD, ...ROSTER.slice(1)], { id: dates.source });
    await dates.house.step(dates.juno);
    await dates.got("No longer invited: Rehearsal", 1);
    await until(
      "no dates",
      () => read(body.url),
      ({ titles }) => titles.length === 0,
    );
    await oak.ask("DELETE", "/api/member/feed");
    expect((await read(body.url)).status).toBe(404);
  });
});

describe("a child's calendar", () => {
  test("has what their classes are invited to, as long as they are a child of whoever made it", async () => {
    const siblings = (wren: string) => [
      ...ROSTER,
      student(4, "Ash", "Wren", "Mill Loft", wren),
      student(5, "Ash", "Finn", "Big Barn", "Juggling One"),
    ];
    await dates.house.readLines(dates.juno, [HEAD, ...siblings("Trapeze Two")], {
      id: dates.source,
    });
    await dates.house.step(dates.juno);
    await dates.got("Invitation: Barn dance", 1);
    const ash = dates.house.client();
    await ash.ask("POST", "/api/member/link", { address: "ash@oakmail.example" });
    const letter = await dates.house.mailTo("ash@oakmail.example", "Open your page");
    const [, token = ""] = /\/member\/([\w-]+)/.exec(letter) ?? [];
    await ash.ask("POST", "/api/member/enter", { token });
    interface Mine {
      url: string;
      children: { id: string; name: string; url: string }[];
    }
    const mine = async () => (await ash.ask<Mine>("GET", "/api/member/dates")).body;
    const { children } = await mine();
    expect(children.map(({ name, url }) => [name, url]).sort()).toEqual([
      ["Finn Ash", ""],
      ["Wren Ash", ""],
    ]);
    const make = async (child: string) =>
      ash.ask<{ url: string }>("POST", "/api/member/feed", { child });
    const [finn, wren] = ["Finn Ash", "Wren Ash"].map(
      (name) => children.find((child) => child.name === name)?.id ?? "",
    );
    const ofFinn = (await make(finn ?? "")).body.url;
    const ofWren = (await make(wren ?? "")).body.url;
    expect((await read(ofFinn)).titles).toEqual(["Barn dance"]);
    expect((await read(ofWren)).titles).toContain("Rehearsal");
    expect((await read(ofWren)).titles).not.toContain("Barn dance");
    expect((await mine()).url).toBe("");

    const stranger = dates.house.client();
    expect((await stranger.ask("POST", "/api/member/feed", { child: wren })).status).toBe(401);
    expect((await make("nobody")).status).toBe(404);

    // Who changes class takes the calendar along.
    await dates.house.readLines(dates.juno, [HEAD, ...siblings("Juggling One")], {
      id: dates.source,
    });
    await dates.house.step(dates.juno);
    await until(
      "the other class",
      () => read(ofWren),
      ({ titles }) => titles.includes("Barn dance"),
    );
    await ash.ask("DELETE", `/api/member/feed?child=${encodeURIComponent(wren ?? "")}`);
    expect((await read(ofWren)).status).toBe(404);
    expect((await read(ofFinn)).status).toBe(200);
  });
});
