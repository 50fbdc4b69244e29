import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { House } from "@amigo/contract/house";
import type { ListPage } from "@amigo/contract/lists";
import type { Member } from "@amigo/contract/members";
import type { RoundPage } from "@amigo/contract/rounds";
import { notify } from "../events/events";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.ods");
  await house.step(juno);
});
afterAll(() => house.close());

interface Found {
  kind: string;
  title: string;
  detail: string;
  to: string;
}

const find = async (q: string, client = juno): Promise<Found[]> =>
  (await client.ask<Found[]>("GET", `/api/find?q=${encodeURIComponent(q)}`)).body;

describe("the house", () => {
  test("says whether database, SMTP port and relay answer, and 503 when one does not", async () => {
    const nobody = house.client();
    expect((await nobody.ask("GET", "/api/health")).body).toEqual({
      status: "ok",
      database: true,
      smtp: true,
      relay: true,
      events: true,
    });
    const { port } = house.sink;
    await house.sink.close();
    const without = await nobody.ask("GET", "/api/health");
    expect([without.status, without.body]).toEqual([
      503,
      { status: "failing", database: true, smtp: true, relay: false, events: true },
    ]);
    house.sink = await (await import("../testing/sink")).startSink(port);
  });

  test("shows its recipes with an example of the names they make, its sites, seasons and accounts", async () => {
    const { body } = await juno.ask<House>("GET", "/api/house");
    expect(body.recipes.map(({ value, lists, example }) => [value.name, lists, example])).toEqual([
      ["Students of each class", 10, "bb-acro-2627@lists.copperwheel.example"],
      ["Guardians of each class", 10, "bb-acro-parents-2627@lists.copperwheel.example"],
      ["Students of each team", 0, ""],
      ["Guardians of each team", 0, ""],
      ["Coaches of each class", 10, "bb-acro-coaches-2627@lists.copperwheel.example"],
      ["Everybody on the staff", 1, "staff-2627@lists.copperwheel.example"],
    ]);
    expect(body.sites).toEqual([
      { code: "BB", name: "Big Barn", classes: 5 },
      { code: "ML", name: "Mill Loft", classes: 5 },
    ]);
    expect(body.seasons.map(({ label, current }) => [label, current])).toEqual([
      ["2026-27", true],
      ["2025-26", false],
    ]);
    expect(body.accounts.find(({ email }) => email === ODILE)).toMatchObject({
      role: "site coordinator, Mill Loft",
      leads: 0,
    });
    expect(body.accounts.find(({ email }) => email === RAVI)?.leads).toBe(6);
  });

  test("keeps a journal, newest first, of who did what", async () => {
    const { body } = await juno.ask<{
      entries: { sentence: string; actor: string }[];
      more: boolean;
    }>("GET", "/api/journal");
    const sentences = body.entries.map(({ sentence }) => sentence);
    expect(
      sentences.some((sentence) =>
        /^Juno Abara brought 30 lists in step in round 1: 671 joined, 0 left$/.test(sentence),
      ),
    ).toBe(true);
    expect(
      sentences.some((sentence) =>
        sentence.startsWith('Juno Abara imported "autumn-roster.ods", sheet "Roster": 220 rows'),
      ),
    ).toBe(true);
    expect(sentences[sentences.length - 1]).toContain("demo house");
    expect(body.more).toBe(false);
  });

  test("makes tokens with a name only", async () => {
    expect((await juno.ask("POST", "/api/tokens", { name: "  " })).status).toBe(400);
    expect((await juno.ask("POST", "/api/tokens", {})).status).toBe(400);
    expect(
      (await juno.ask("DELETE", "/api/tokens/00000000-0000-4000-8000-000000000000")).status,
    ).toBe(404);
  });
});

describe("finding", () => {
  test("tells people of one name apart by class, children and lists", async () => {
    const people = (await find("oona")).filter(({ kind }) => kind === "person");
    expect(people.length).toBeGreaterThan(3);
    expect(new Set(people.map(({ title, detail }) => `${title} ${detail}`)).size).toBe(
      people.length,
    );
    for (const { detail } of people)
      expect(detail).toMatch(
        /^(student|guardian of \S.*) · [A-Z].+( · [a-z0-9.-]+( and \d+ more)?)?$/,
      );
  });

  test.each([
    ["trap", "Trapeze Two, guardians"],
    ["trapeze gua", "Trapeze Two, guardians"],
    ["ml-trap", "Trapeze Two, students"],
    ["stilts clown", "Stilts & Clowning, students"],
  ])("%j finds %s", async (q, title) =>
    expect((await find(q)).map((hit) => hit.title)).toContain(title),
  );

  test("finds a person by a part of the name and leads to their page", async () => {
    const [hit] = (await find("mirela achter")).filter(({ kind }) => kind === "person");
    expect(hit).toMatchObject({
      title: "Mirela Achterberg",
      detail: "student · Trapeze Two · ml-trapeze2-2627",
    });
    expect(hit?.to).toMatch(/^\/people\/s-/);
  });

  test("finds a source, and nothing for nothing or for signs of a pattern", async () => {
    expect((await find("autumn")).filter(({ kind }) => kind === "source")).toHaveLength(1);
    expect(await find("")).toEqual([]);
    expect(await find("%")).toEqual([]);
    expect(await find("zzzz")).toEqual([]);
  });

  test("shows a lead no people and no sources", async () => {
    const ravi = await house.signIn(RAVI);
    expect((await find("trap", ravi)).map(({ kind }) => kind)).toEqual(["list", "list", "list"]);
    expect(await find("mirela", ravi)).toEqual([]);
    expect(await find("autumn", ravi)).toEqual([]);
  });
});

describe("a list", () => {
  const listId = async (q: string): Promise<string> =>
    (await juno.ask<{ id: string }[]>("GET", `/api/lists?q=${encodeURIComponent(q)}`)).body[0]
      ?.id ?? "";

  test("says who belongs on it and cannot be reached, with the row", async () => {
    const { body } = await juno.ask<ListPage>(
      "GET",
      `/api/lists/${await listId("juggling one guardians")}`,
    );
    expect(body).toMatchObject({
      address: "bb-jugg1-parents-2627@lists.copperwheel.example",
      preset: { id: "announcement-only", name: "Announcement-only" },
      kind: "guardians",
      broken: [],
      leads: ["Teo Bramwell"],
      members: 38,
      joins: 0,
      leaves: 0,
    });
    expect(body.unreachable).toEqual([
      {
        name: "Tove Iñárritu",
        because: expect.stringMatching(/^guardian of .+ · autumn-roster, row \d+, column G$/),
      },
    ]);
  });

  test.each([
    ["halim achterberg", true],
    ["HALIM", true],
    ["lumi achterberg", true],
    ["oakmail", true],
    ["nobody at all", false],
  ])("its members are searched by name, address or child: %j", async (q, somebody) => {
    const { body } = await juno.ask<{ total: number; members: Member[] }>(
      "GET",
      `/api/lists/${await listId("juggling one guardians")}/members?q=${encodeURIComponent(q)}`,
    );
    expect(body.total > 0).toBe(somebody);
    expect(body.members).toHaveLength(body.total);
    for (const member of body.members)
      expect(JSON.stringify(member).toLowerCase().normalize("NFKD")).toContain(
        q.toLowerCase().split(" ")[0],
      );
  });

  test("two who share an address are one address with two people behind it", async () => {
    const { body } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${await listId("juggling one guardians")}/members?q=pbellweather`,
    );
    expect(
      body.members.map(({ address, people }) => [address, people.map(({ name }) => name).sort()]),
    ).toEqual([["pbellweather@fernpost.example", ["Benedikt Bellweather", "Pavel Bellweather"]]]);
  });

  test("students have the inside address that the house makes from their number", async () => {
    const { body } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${await listId("juggling one students")}/members?q=lumi`,
    );
    expect(body.members[0]).toMatchObject({
      address: "cw-4020@copperwheel.example",
      people: [
        {
          name: "Lumi Achterberg",
          because: "student of Juggling One",
          where: "autumn-roster, row 7, column F",
        },
      ],
    });
  });

  test("has its own journal", async () => {
    const { body } = await juno.ask<{ sentence: string }[]>(
      "GET",
      `/api/lists/${await listId("juggling one guardians")}/journal`,
    );
    expect(body.map(({ sentence }) => sentence)).toEqual(["Round 1: 38 joined"]);
  });

  test.each([
    ["no address", 422],
    ["", 400],
  ])("does not try %j", async (address, status) => {
    expect(
      (
        await juno.ask("POST", `/api/lists/${await listId("juggling one guardians")}/try`, {
          address,
        })
      ).status,
    ).toBe(status);
  });

  test.each([
    [JUNO, "signed-in", "goes out"],
    [JUNO, "none", "held"],
    [JUNO, "spf", "goes out"],
    [ODILE, "signed-in", "returned"],
    ["teo.bramwell@copperwheel.example", "signed-in", "goes out"],
    [RAVI, "signed-in", "returned"],
    ["pbellweather@fernpost.example", "dkim", "returned"],
  ])("tells what would happen to mail of %s (%s): %s", async (address, proof, outcome) => {
    const { body } = await juno.ask<{ outcome: string }>(
      "POST",
      `/api/lists/${await listId("juggling one guardians")}/try`,
      { address, proof },
    );
    expect(body.outcome).toBe(outcome);
    const all = await juno.ask<{ lists: { id: string; outcome: string }[] }>(
      "POST",
      "/api/lists/try",
      { address, proof },
    );
    const id = await listId("juggling one guardians");
    expect(all.body.lists.find((line) => line.id === id)?.outcome).toBe(outcome);
  });
});

describe("pages that are open", () => {
  test("hear of changes as they happen, and nothing of what changed", async () => {
    const stop = new AbortController();
    const response = await fetch(`${house.url}/api/events`, {
      headers: { Cookie: juno.cookie },
      signal: stop.signal,
    });
    expect(response.headers.get("content-type")).toContain("text/event-stream");
    const reader = response.body?.getReader();
    let heard = "";
    const listening = (async () => {
      for (;;) {
        const part = await reader?.read();
        if (part === undefined || part.done) return;
        heard += new TextDecoder().decode(part.value);
      }
    })().catch(() => undefined);
    await until(
      "the event",
      async () => {
        await notify(house.amigo.context.db, "posts");
        return heard;
      },
      (text) => text.includes("data: posts"),
    );
    expect(heard.replace(/event: (changed|beat)\n?|data: ?\w*\n?|id: \d+\n?/g, "").trim()).toBe("");
    stop.abort();
    await listening;
  });
});

describe("past rounds", () => {
  test("can be looked at with what they did, by number", async () => {
    const { body: rounds } = await juno.ask<{ number: number; totals: { accepted: number } }[]>(
      "GET",
      "/api/rounds",
    );
    expect(rounds).toMatchObject([{ number: 1, totals: { accepted: 230, held: 0, joins: 671 } }]);
    const { body: past } = await juno.ask<RoundPage>("GET", "/api/rounds/1");
    expect(past).toMatchObject({ state: "done", closedBy: "Juno Abara" });
    expect((await juno.ask("GET", "/api/rounds/77")).status).toBe(404);
    expect(
      (
        await juno.ask("POST", "/api/rounds/open/decisions", {
          round: 1,
          causes: ["x"],
          decision: "held",
        })
      ).status,
    ).toBe(409);
  });
});
