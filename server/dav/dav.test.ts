import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { addDays } from "@amigo/core/calendar/when";
import { readEvents } from "@amigo/core/calendar/readEvents";
import {
  dayFromNow,
  partOf,
  startDatesHouse,
  student,
  type DatesHouse,
} from "../testing/datesHouse";
import { JUNO, ODILE, RAVI } from "../testing/testHouse";
import { childOf, DAV, parseXml, type XmlElement } from "./xml";

const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
  student(3, "Pine", "Tove", "Big Barn", "Juggling One"),
];
const DAY = dayFromNow(20);

let dates: DatesHouse;
const basic = new Map<string, string>();
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, DAY);
  for (const email of [JUNO, ODILE, RAVI]) basic.set(email, await passwordFor(email));
});
afterAll(() => dates?.house.close());
beforeEach(() => dates.turnPage());

async function passwordFor(email: string, uses = ["calendars"]): Promise<string> {
  const client = await dates.house.signIn(email);
  const { status, body } = await client.ask<{ password: string }>(
    "POST",
    "/api/account/mail-programs",
    { name: "Laptop", password: DEMO_PASSWORD, uses },
  );
  if (status !== 200) throw new Error(`${status} ${JSON.stringify(body)}`);
  return `Basic ${Buffer.from(`${email}:${body.password}`).toString("base64")}`;
}

interface Asked {
  as?: string;
  method?: string;
  body?: string;
  headers?: Record<string, string>;
}
async function ask(path: string, { as = JUNO, method = "GET", body, headers = {} }: Asked = {}) {
  const response = await fetch(`${dates.house.url}${path}`, {
    method,
    redirect: "manual",
    ...(body === undefined ? {} : { body }),
    headers: { Authorization: basic.get(as) ?? "", ...headers },
  });
  const text = await response.text();
  return { status: response.status, headers: response.headers, text, xml: parseXml(text) };
}
const propfind = (path: string, names: string, depth = "0", as = JUNO) =>
  ask(path, {
    as,
    method: "PROPFIND",
    headers: { Depth: depth },
    body: `<?xml version="1.0"?><d:propfind xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav" xmlns:a="urn:ietf:params:xml:ns:carddav"><d:prop>${names}</d:prop></d:propfind>`,
  });
const report = (path: string, body: string, as = JUNO) =>
  ask(path, { as, method: "REPORT", body: `<?xml version="1.0"?>${body}` });
const NS =
  'xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav" xmlns:a="urn:ietf:params:xml:ns:carddav"';

/** The responses of an answer by their paths. */
function responsesIn(root: XmlElement | undefined): Map<string, XmlElement> {
  return new Map(
    (root?.children ?? [])
      .filter(({ name }) => name === "response")
      .map((one) => [childOf(one, DAV, "href")?.text ?? "", one]),
  );
}
const textIn = (element: XmlElement | undefined): string =>
  element === undefined ? "" : element.text + element.children.map(textIn).join("");

/** Follows what a program is told from the well-known address to its homes. */
async function homesOf(as: string): Promise<{ calendars: string; addressbooks: string }> {
  const known = await ask("/.well-known/caldav", { as, method: "PROPFIND" });
  expect(known.status).toBe(301);
  const root = await propfind(
    known.headers.get("location") ?? "",
    "<d:current-user-principal/>",
    "0",
    as,
  );
  const [, principal = ""] = /<D:current-user-principal><D:href>([^<]+)</.exec(root.text) ?? [];
  const homes = await propfind(
    principal,
    "<c:calendar-home-set/><a:addressbook-home-set/>",
    "0",
    as,
  );
  return {
    calendars: /calendar-home-set><D:href>([^<]+)</.exec(homes.text)?.[1] ?? "",
    addressbooks: /addressbook-home-set><D:href>([^<]+)</.exec(homes.text)?.[1] ?? "",
  };
}
async function collectionsOf(home: string, as = JUNO): Promise<Map<string, string>> {
  const { xml } = await propfind(home, "<d:displayname/>", "1", as);
  return new Map(
    [...responsesIn(xml)]
      .slice(1)
      .map(([path, one]) => [textIn(one).replace("HTTP/1.1 200 OK", ""), path]),
  );
}
async function calendarOf(title: RegExp, as = JUNO): Promise<string> {
  const all = await collectionsOf((await homesOf(as)).calendars, as);
  const [, path] = [...all].find(([name]) => title.test(name)) ?? [];
  if (path === undefined) throw new Error(`no calendar ${title}: ${[...all.keys()].join(", ")}`);
  return path;
}
const event = (uid: string, lines: readonly string[]): string =>
  [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//Other//EN",
    "BEGIN:VEVENT",
    `UID:${uid}`,
    "DTSTAMP:20261101T000000Z",
    ...lines,
    "END:VEVENT",
    "END:VCALENDAR",
    "",
  ].join("\r\n");
const compact = (day: string): string => day.replaceAll("-", "");

describe("signing in", () => {
  test("asks for a password that was made for calendars, and takes no other", async () => {
    const mailOnly = await passwordFor(JUNO, ["mail"]);
    for (const header of [
      "",
      "Basic !!",
      `Basic ${Buffer.from(`${JUNO}:${DEMO_PASSWORD}`).toString("base64")}`,
      `Basic ${Buffer.from(
        `${RAVI}:${
          Buffer.from((basic.get(JUNO) ?? "").slice(6), "base64")
            .toString()
            .split(":")[1]
        }`,
      ).toString("base64")}`,
      mailOnly,
      `Bearer ${
        Buffer.from((basic.get(JUNO) ?? "").slice(6), "base64")
          .toString()
          .split(":")[1]
      }`,
    ]) {
      const { status, headers } = await ask("/dav/", {
        method: "PROPFIND",
        headers: { Authorization: header, Depth: "0" },
      });
      expect([header.slice(0, 12), status]).toEqual([header.slice(0, 12), 401]);
      expect(headers.get("www-authenticate")).toContain("Basic realm=");
    }
    // And what is for calendars opens nothing else.
    const password = Buffer.from((basic.get(JUNO) ?? "").slice(6), "base64")
      .toString()
      .split(":")[1];
    const api = await fetch(`${dates.house.url}/api/lists/all`, {
      headers: { Authorization: `Bearer ${password}` },
    });
    expect(api.status).toBe(401);
  });

  test("tells what the server can do without it, and nothing of anybody", async () => {
    const { status, headers, text } = await ask("/dav/calendars/x/", {
      method: "OPTIONS",
      headers: { Authorization: "" },
    });
    expect([status, text]).toEqual([204, ""]);
    expect(headers.get("dav")).toContain("calendar-access, addressbook");
  });

  test("one account never sees the paths of another", async () => {
    const { calendars, addressbooks } = await homesOf(JUNO);
    for (const path of [calendars, addressbooks, `${addressbooks}people/`])
      expect((await propfind(path, "<d:displayname/>", "1", RAVI)).status).toBe(404);
  });
});

describe("a calendar", () => {
  test("is one for each list with dates, and has each date as an object with its version", async () => {
    const id = await dates.make({ title: "Gala & <ball>" });
    const path = await calendarOf(/Trapeze Two/);
    const { xml } = await propfind(path, "<d:getetag/><d:resourcetype/><d:nonsense/>", "1");
    const item = responsesIn(xml).get(`${path}${id}.ics`);
    expect(textIn(item)).toContain("200 OK");
    const got = await ask(`${path}${id}.ics`);
    expect(got.headers.get("etag")).toBe(textIn(item).match(/"[^"]+"/)?.[0]);
    expect(got.text).toContain("SUMMARY:Gala & <ball>");
    expect(got.text).not.toMatch(/ATTENDEE|METHOD/);
    const again = await ask(`${path}${id}.ics`, {
      headers: { "If-None-Match": got.headers.get("etag") ?? "" },
    });
    expect(again.status).toBe(304);
  });

  test("tells by a query what is within a time, and by their paths what is asked for", async () => {
    const id = await dates.make({
      title: "Weekly",
      repeat: { every: "week", step: 1, days: [], until: addDays(DAY, 28) },
    });
    const path = await calendarOf(/Trapeze Two/);
    const within = async (from: string, until: string): Promise<boolean> => {
      const { status, xml } = await report(
        path,
        `<c:calendar-query ${NS}><d:prop><d:getetag/><c:calendar-data/></d:prop><c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT"><c:time-range start="${compact(from)}T000000Z" end="${compact(until)}T000000Z"/></c:comp-filter></c:comp-filter></c:filter></c:calendar-query>`,
      );
      expect(status).toBe(207);
      return responsesIn(xml).has(`${path}${id}.ics`);
    };
    expect(await within(addDays(DAY, 21), addDays(DAY, 22))).toBe(true);
    expect(await within(addDays(DAY, 22), addDays(DAY, 28))).toBe(false);
    const many = await report(
      path,
      `<c:calendar-multiget ${NS}><d:prop><c:calendar-data/></d:prop><d:href>${path}${id}.ics</d:href><d:href>${path}none.ics</d:href><d:href>/dav/../etc/passwd</d:href></c:calendar-multiget>`,
    );
    expect(textIn(responsesIn(many.xml).get(`${path}${id}.ics`))).toContain("RRULE:FREQ=WEEKLY");
    expect(textIn(responsesIn(many.xml).get(`${path}none.ics`))).toContain("404");
    const odd = await report(
      path,
      `<c:calendar-query ${NS}><c:filter><c:comp-filter name="VCALENDAR"><c:comp-filter name="VEVENT"><c:prop-filter name="X"/></c:comp-filter></c:comp-filter></c:filter></c:calendar-query>`,
    );
    expect(odd.status).toBe(403);
    expect(odd.text).toContain("supported-filter");
  });

  test("takes a date that is made in a program, and everybody on the list is invited", async () => {
    const path = await calendarOf(/Trapeze Two/);
    const text = event("made-elsewhere@oakmail.example", [
      `DTSTART:${compact(DAY)}T150000Z`,
      `DTEND:${compact(DAY)}T160000Z`,
      "SUMMARY:Rope check",
      "LOCATION:Mill Loft",
      "RRULE:FREQ=WEEKLY;COUNT=2",
    ]);
    const put = await ask(`${path}rope.ics`, {
      method: "PUT",
      body: text,
      headers: { "If-None-Match": "*" },
    });
    expect(put.status).toBe(201);
    const mails = await dates.got("Invitation: Rope check", 2);
    expect([...mails.keys()].sort()).toEqual(["elm@oakmail.example", "oak@oakmail.example"]);
    dates.turnPage();
    expect(
      (
        await ask(`${path}rope.ics`, {
          method: "PUT",
          body: text,
          headers: { "If-None-Match": "*" },
        })
      ).status,
    ).toBe(412);

    const { headers } = await ask(`${path}rope.ics`);
    const etag = headers.get("etag") ?? "";
    const moved = text.replace(`${compact(DAY)}T150000Z`, `${compact(DAY)}T140000Z`);
    expect(
      (
        await ask(`${path}rope.ics`, {
          method: "PUT",
          body: moved,
          headers: { "If-Match": '"old"' },
        })
      ).status,
    ).toBe(412);
    expect(
      (await ask(`${path}rope.ics`, { method: "PUT", body: moved, headers: { "If-Match": etag } }))
        .status,
    ).toBe(204);
    await dates.got("Changed: Rope check", 2);
    const now = readEvents((await ask(`${path}rope.ics`)).text, "UTC");
    expect(now.ok && now.events[0]).toMatchObject({
      title: "Rope check",
      when: { from: `${DAY}T14:00` },
    });
    dates.turnPage();
    // Its id is taken: it can't stand here twice.
    const twice = await ask(`${path}other.ics`, { method: "PUT", body: text });
    expect([twice.status, twice.text.includes("no-uid-conflict")]).toEqual([403, true]);

    expect((await ask(`${path}rope.ics`, { method: "DELETE" })).status).toBe(204);
    await dates.got("Called off: Rope check", 2);
    expect((await ask(`${path}rope.ics`)).status).toBe(404);

    // A program that undoes the deletion puts it there once more.
    dates.turnPage();
    const back = moved.replaceAll("Rope check", "Rope check after all");
    expect((await ask(`${path}again.ics`, { method: "PUT", body: back })).status).toBe(201);
    const mail = [...(await dates.got("Invitation: Rope check after all", 2)).values()][0];
    expect(Number(partOf(mail, "sequence"))).toBeGreaterThan(2);
    expect((await ask(`${path}again.ics`)).text).toContain("SUMMARY:Rope check after all");
    expect((await ask(`${path}again.ics`, { method: "DELETE" })).status).toBe(204);
  });

  test("tells whoever signs in where they may write", async () => {
    const allowed = async (path: string, as = JUNO): Promise<string[]> => {
      const { headers } = await ask(path, { as, method: "OPTIONS" });
      return (headers.get("allow") ?? "").split(", ").filter((one) => /PUT|DELETE/.test(one));
    };
    expect(await allowed(await calendarOf(/Trapeze Two/))).toEqual(["PUT", "DELETE"]);
    expect(await allowed(await calendarOf(/All dates/))).toEqual([]);
    const { addressbooks } = await homesOf(JUNO);
    expect(await allowed(`${addressbooks}people/`)).toEqual([]);
    expect(await allowed(`${addressbooks}private/`)).toEqual(["PUT", "DELETE"]);
  });

  test("of one id that two programs put at once is made once", async () => {
    const path = await calendarOf(/Trapeze Two/);
    const text = event("at-once@desk.example", [
      "SUMMARY:At once",
      `DTSTART:${compact(DAY)}T100000Z`,
      `DTEND:${compact(DAY)}T110000Z`,
    ]);
    const both = await Promise.all(
      ["one", "two"].map((name) => ask(`${path}${name}.ics`, { method: "PUT", body: text })),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([201, 403]);
  });

  test.each([
    ["nothing", "", "valid-calendar-data"],
    ["a page", "<html></html>", "valid-calendar-data"],
    [
      "a task",
      "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VTODO\r\nUID:1\r\nEND:VTODO\r\nEND:VCALENDAR\r\n",
      "valid-calendar-data",
    ],
    ["a date without a title", event("u1", ["DTSTART:20270101T100000Z"]), "valid-calendar-data"],
    [
      "a rule that can't be kept",
      event("u2", ["DTSTART:20270101T100000Z", "SUMMARY:A", "RRULE:FREQ=MINUTELY;COUNT=9"]),
      "valid-calendar-data",
    ],
    [
      "two dates",
      event("u3", [
        "DTSTART:20270101T100000Z",
        "SUMMARY:A",
        "END:VEVENT",
        "BEGIN:VEVENT",
        "UID:u4",
        "DTSTART:20270101T100000Z",
        "SUMMARY:B",
      ]),
      "valid-calendar-object-resource",
    ],
    [
      "an end before the begin",
      event("u5", ["DTSTART:20270102T100000Z", "DTEND:20270101T100000Z", "SUMMARY:A"]),
      "",
    ],
  ])("refuses %s, and keeps nothing of it", async (_, body, condition) => {
    const path = await calendarOf(/Trapeze Two/);
    const { status, text } = await ask(`${path}wrong.ics`, { method: "PUT", body });
    expect(status).toBe(403);
    expect(text).toContain(condition);
    expect((await ask(`${path}wrong.ics`)).status).toBe(404);
  });

  test("is written by whoever may write to the list alone, and the one with all dates by nobody", async () => {
    const body = event("no@oakmail.example", [`DTSTART:${compact(DAY)}T150000Z`, "SUMMARY:No"]);
    const all = await calendarOf(/All dates/);
    expect((await ask(`${all}no.ics`, { method: "PUT", body })).status).toBe(403);
    const odile = await collectionsOf((await homesOf(ODILE)).calendars, ODILE);
    expect([...odile.keys()].some((name) => /Juggling/.test(name))).toBe(false);
    const privileges = await propfind(all, "<d:current-user-privilege-set/>");
    expect(privileges.text).not.toContain("write-content");
    const own = await propfind(await calendarOf(/Trapeze Two/), "<d:current-user-privilege-set/>");
    expect(own.text).toContain("write-content");
  });

  test("of a site coordinator has the dates of their site, and nothing of another's", async () => {
    await dates.make({
      title: "Secret of the barn",
      lists: [dates.listOf(/Juggling One.*guardians/i)],
    });
    const path = await calendarOf(/All dates/, ODILE);
    const { text } = await report(
      path,
      `<d:sync-collection ${NS}><d:sync-token/><d:sync-level>1</d:sync-level><d:prop><c:calendar-data/></d:prop></d:sync-collection>`,
      ODILE,
    );
    expect(text).toContain("Gala");
    expect(text).not.toContain("Secret of the barn");
  });
});

describe("what has changed", () => {
  const sync = async (path: string, token: string) => {
    const { status, xml, text } = await report(
      path,
      `<d:sync-collection ${NS}><d:sync-token>${token}</d:sync-token><d:sync-level>1</d:sync-level><d:prop><d:getetag/></d:prop></d:sync-collection>`,
    );
    return {
      status,
      text,
      token: childOf(xml, DAV, "sync-token")?.text ?? "",
      paths: [...responsesIn(xml)].map(([path_, one]) => [
        path_,
        childOf(one, DAV, "status")?.text === "HTTP/1.1 404 Not Found" ? "gone" : "there",
      ]),
    };
  };

  test("is told by a token: new, changed and gone, and nothing else", async () => {
    const kept = await dates.make({ title: "Kept" });
    const path = await calendarOf(/Trapeze Two/);
    const first = await sync(path, "");
    expect(first.paths).toContainEqual([`${path}${kept}.ics`, "there"]);
    expect(await sync(path, first.token)).toMatchObject({ token: first.token, paths: [] });
    const added = await dates.make({ title: "Added" });
    const second = await sync(path, first.token);
    expect(second.paths).toEqual([[`${path}${added}.ics`, "there"]]);
    await dates.juno.ask("POST", `/api/dates/${kept}/cancel`, { reason: "" });
    const third = await sync(path, second.token);
    expect(third.paths).toEqual([[`${path}${kept}.ics`, "gone"]]);
    // Whoever was away for both hears of both.
    expect((await sync(path, first.token)).paths.sort()).toEqual(
      [
        [`${path}${added}.ics`, "there"],
        [`${path}${kept}.ics`, "gone"],
      ].sort(),
    );
    const tag = await propfind(path, "<d:sync-token/>");
    expect(tag.text).toContain(third.token);
  });

  test.each(["urn:amigo:sync:unknown", "x' or '1'='1"])(
    "isn't told to a token that isn't known: %s",
    async (token) => {
      const { status, text } = await sync(await calendarOf(/Trapeze Two/), token);
      expect([status, text.includes("valid-sync-token")]).toEqual([403, true]);
    },
  );
});

describe("address books", () => {
  const search = async (book: string, as: string, test_: string): Promise<string> => {
    const { addressbooks } = await homesOf(as);
    const { status, text } = await report(
      `${addressbooks}${book}/`,
      `<a:addressbook-query ${NS}><d:prop><a:address-data/></d:prop><a:filter test="anyof">${test_}</a:filter></a:addressbook-query>`,
      as,
    );
    expect(status).toBe(207);
    return text;
  };
  const begins = (text: string): string =>
    `<a:prop-filter name="FN"><a:text-match match-type="contains">${text}</a:text-match></a:prop-filter><a:prop-filter name="EMAIL"><a:text-match match-type="starts-with">${text}</a:text-match></a:prop-filter>`;

  test("find a list by the start of its name, with its address", async () => {
    const text = await search("lists", JUNO, begins("trapeze"));
    expect(text).toMatch(/FN:Trapeze Two/);
    expect(text).toMatch(/EMAIL[^\n]*:[a-z0-9-]*trapeze[a-z0-9-]*@lists\./);
    expect(text).not.toMatch(/FN:Juggling/);
    expect(await search("lists", JUNO, begins("zzz"))).not.toContain("VCARD");
  });

  test("have the people whom one may know, and nobody else", async () => {
    expect(await search("people", JUNO, begins("Robin"))).toMatch(/pine@oakmail/);
    const odile = await search("people", ODILE, begins("Robin"));
    expect(odile).toMatch(/oak@oakmail/);
    expect(odile).not.toMatch(/pine@oakmail/);
  });

  test("are told in the version that is asked for", async () => {
    const { addressbooks } = await homesOf(JUNO);
    const all = await propfind(`${addressbooks}lists/`, "<d:getetag/>", "1");
    const path = [...responsesIn(all.xml).keys()].find((one) => one.endsWith(".vcf")) ?? "";
    expect((await ask(path)).text).toContain("VERSION:3.0");
    const four = await ask(path, { headers: { Accept: "text/vcard; version=4.0" } });
    expect(four.text).toContain("KIND:group");
  });

  test("private lists are made, changed and removed by a program, of people whom one may know", async () => {
    const { addressbooks } = await homesOf(ODILE);
    const people = await search("people", ODILE, begins("Robin"));
    const uids = [...people.matchAll(/UID:([0-9a-f-]{36})/g)].map(([, uid]) => uid ?? "");
    const pine = [
      ...(await search("people", JUNO, begins("Robin Pine"))).matchAll(/UID:([0-9a-f-]{36})/g),
    ].map(([, uid]) => uid ?? "");
    const card = (members: readonly string[], name = "Rope helpers"): string =>
      [
        "BEGIN:VCARD",
        "VERSION:3.0",
        "UID:group-1",
        `FN:${name}`,
        `N:${name};;;;`,
        "X-ADDRESSBOOKSERVER-KIND:group",
        ...members.map((uid) => `X-ADDRESSBOOKSERVER-MEMBER:urn:uuid:${uid}`),
        "END:VCARD",
        "",
      ].join("\r\n");
    const path = `${addressbooks}private/helpers.vcf`;
    // Whom one may not know isn't put on it, whatever their id is.
    const put = await ask(path, { as: ODILE, method: "PUT", body: card([...uids, ...pine]) });
    expect(put.status).toBe(201);
    const odile = await dates.house.signIn(ODILE);
    const lists = async () =>
      (await odile.ask<{ name: string; people: number }[]>("GET", "/api/private-lists")).body;
    expect(await lists()).toMatchObject([{ name: "Rope helpers", people: 2 }]);
    expect(uids).toHaveLength(2);
    expect(
      (await ask(path, { as: ODILE, method: "PUT", body: card(uids.slice(0, 1), "Helpers") }))
        .status,
    ).toBe(204);
    expect(await lists()).toMatchObject([{ name: "Helpers", people: 1 }]);
    const got = await ask(path, { as: ODILE });
    expect(got.text).toContain(`X-ADDRESSBOOKSERVER-MEMBER:urn:uuid:${uids[0]}`);
    expect(got.text).toContain("UID:group-1");
    const single = card([]).replace("X-ADDRESSBOOKSERVER-KIND:group\r\n", "");
    expect(
      (await ask(`${addressbooks}private/me.vcf`, { as: ODILE, method: "PUT", body: single }))
        .status,
    ).toBe(403);
    expect(
      (await ask(`${addressbooks}lists/me.vcf`, { as: ODILE, method: "PUT", body: card([]) }))
        .status,
    ).toBe(403);
    expect((await ask(path, { as: ODILE, method: "DELETE" })).status).toBe(204);
    expect(await lists()).toEqual([]);
  });
});

describe("hostile requests", () => {
  const bomb = `<!DOCTYPE a [<!ENTITY x "${"y".repeat(100)}">${Array.from({ length: 10 }, (_, index) => `<!ENTITY x${index} "&x${index - 1};&x${index - 1};">`).join("")}]><d:propfind xmlns:d="DAV:"><d:prop>&x9;</d:prop></d:propfind>`;
  test.each([
    ["entities", bomb],
    [
      "a file",
      '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><d:propfind xmlns:d="DAV:"><d:prop><d:a>&x;</d:a></d:prop></d:propfind>',
    ],
    ["depth", "<a>".repeat(15_000)],
    ["what isn't closed", '<d:propfind xmlns:d="DAV:"><d:prop>'],
    ["another document", '<d:mkcol xmlns:d="DAV:"/>'],
    [
      "many elements",
      `<d:propfind xmlns:d="DAV:"><d:prop>${"<d:a/>".repeat(9_000)}</d:prop></d:propfind>`,
    ],
  ])("%s is refused or answered, and the server goes on", async (_, body) => {
    const { status, text } = await ask("/dav/", {
      method: "PROPFIND",
      body,
      headers: { Depth: "0" },
    });
    expect([207, 400, 413]).toContain(status);
    expect(text).not.toMatch(/root:|yyyy/);
    expect((await propfind("/dav/", "<d:displayname/>")).status).toBe(207);
  });

  test.each(["infinity", "2", "", "1, 1"])("a depth of %j is refused", async (depth) => {
    const { status } = await ask("/dav/", { method: "PROPFIND", headers: { Depth: depth } });
    expect(status).toBe(403);
  });

  test.each(["MKCOL", "MKCALENDAR", "MOVE", "COPY", "LOCK"])(
    "%s is told that it isn't there",
    async (method) => {
      expect((await ask("/dav/calendars/x/y/", { method })).status).toBe(405);
    },
  );

  test("names with signs of XML come back as they are", async () => {
    const { status, text } = await ask("/dav/", {
      method: "PROPFIND",
      headers: { Depth: "0" },
      body: '<d:propfind xmlns:d="DAV:"><d:prop><x:odd xmlns:x="urn:&quot;&lt;&amp;"/></d:prop></d:propfind>',
    });
    expect(status).toBe(207);
    expect(parseXml(text)).toBeDefined();
    expect(text).toContain("404 Not Found");
  });
});
