import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import type { ListPage } from "@amigo/contract/lists";
import type { Member } from "@amigo/contract/members";
import { nameKey } from "@amigo/core/identity/sameName";
import { loadDemo } from "@amigo/demo/loadDemo";
import {
  JUNO,
  proposedPlan,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type ReadAnswer,
  type TestHouse,
} from "./testing/testHouse";
import { openRoundOf, type WholeRound } from "./testing/roundOf";

let house: TestHouse;
let juno: Client;
let source = "";

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Coach e-mail,Parent 1,Email 1";
const IDA =
  "CW-1,Brandt,Ida,Mill Loft,Trapeze Two,Ravi Lindqvist,,Halim Brandt,halim@oakmail.example";
const WREN =
  "CW-2,Eastlake,Wren,Mill Loft,Trapeze Two,Ravi Lindqvist,,Tove Eastlake,tove@lettr.example";
const KAI =
  "CW-3,Moor,Kai,Big Barn,Acro Pairs,Nadia Petrov,nadia.petrov@brightpost.example,Ana Moor,n/a";
const ROWS = [IDA, WREN, KAI];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const listOf = async (q: string, client = juno): Promise<ListPage> => {
  const { body } = await client.ask<{ id: string }[]>("GET", `/api/lists?q=${q}`);
  return (await client.ask<ListPage>("GET", `/api/lists/${body[0]?.id ?? ""}`)).body;
};
const openRound = async (): Promise<WholeRound | null> => await openRoundOf(juno);
const titles = async (): Promise<string[]> =>
  ((await openRound())?.causes ?? []).map(({ kind, title }) => `${kind} ${title}`).sort();

describe("an import", () => {
  test("says in one line what it did, and doesn't count what was never given as a fault", async () => {
    const read = await house.readLines(juno, [HEAD, ...ROWS, ",,,,,,,,"], { name: "Roster" });
    source = read.source;
    expect((read as ReadAnswer & { summary: string }).summary).toBe("3 rows: 3 children");
    const { body } = await juno.ask<{ last: { toDecide: number }; whole: boolean }[]>(
      "GET",
      "/api/sources",
    );
    expect(body[0]).toMatchObject({ whole: true, last: { toDecide: 0 } });
    await house.step(juno);
  });

  test("makes a coach of a sheet's teacher with an address, who needs no account", async () => {
    const coaches = await listOf("acro pairs coaches");
    const { body } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${coaches.id}/members`,
    );
    // An outside address is no member of a list that takes none; the person is there all the same.
    const people = await juno.ask<{ name: string; detail: string }[]>(
      "GET",
      "/api/person-hits?q=nadia",
    );
    expect(people.body.map(({ name }) => name)).toEqual(["Nadia Petrov"]);
    expect(body.members.map(({ address }) => address)).toEqual(["nadia.petrov@brightpost.example"]);
    expect(coaches).toMatchObject({ kind: "staff", people: 1 });
  });

  test("can be given other meanings afterwards, from the file that is kept", async () => {
    const bytes = new TextEncoder().encode([HEAD, ...ROWS].join("\n"));
    const plan = proposedPlan(bytes);
    const columns = plan.columns.map((column) =>
      column.title === "Site" ? { ...column, meaning: "unread" as const } : column,
    );
    const { status, body } = await juno.ask<ReadAnswer>("POST", `/api/sources/${source}/meanings`, {
      plan: { ...plan, columns },
    });
    expect(status).toBe(200);
    expect(body.causes).toBeGreaterThan(0);
    expect((await titles()).some((title) => title.startsWith("detail"))).toBe(true);
    await juno.ask("POST", `/api/sources/${source}/meanings`, { plan });
    expect(await openRound()).toBeNull();
  });

  test("lets any cell be corrected, one without a fault too", async () => {
    const { body } = await juno.ask<{ readings: { id: string }[] }>(
      "GET",
      `/api/sources/${source}`,
    );
    const correct = await juno.ask("POST", "/api/corrections", {
      reading: body.readings[0]?.id,
      row: 2,
      column: 4,
      read: "Wire Walk",
    });
    expect(correct.status).toBe(200);
    expect((await openRound())?.causes.map(({ title, detail }) => `${title}: ${detail}`)).toContain(
      "Ida Brandt: Trapeze Two → Wire Walk",
    );
    const { body: corrections } = await juno.ask<{ id: string }[]>("GET", "/api/corrections");
    await juno.ask("DELETE", `/api/corrections/${corrections[0]?.id ?? ""}`);
    expect(await openRound()).toBeNull();
  });
});

describe("a dropped sheet", () => {
  const match = async (rows: string[]): Promise<unknown> => {
    const plan = proposedPlan(new TextEncoder().encode([HEAD, ...rows].join("\n")));
    const names = rows.map((row) => {
      const [, family = "", given = ""] = row.split(",");
      return nameKey({ given, family });
    });
    return (
      await juno.ask("POST", "/api/sources/match", { columns: plan.columns, names, oneIn: 1 })
    ).body;
  };
  const OTHERS = ["Una Holm", "Per Holm", "Lea Roth"].map(
    (name, at) =>
      `X-${at},${name.split(" ")[1] ?? ""},${name.split(" ")[0] ?? ""},Big Barn,Hoops and Staff,,,Kim ${name.split(" ")[1] ?? ""},k${at}@lettr.example`,
  );

  test("goes to the source whose columns and children it has, and to no other", async () => {
    expect(await match([IDA, WREN, KAI])).toEqual({ is: "the next of", source });
    expect(await match([IDA, WREN, ...OTHERS])).toEqual({ is: "the next of", source });
    expect(await match(OTHERS)).toEqual({ is: "new" });
  });
});

describe("writing to a child", () => {
  let trapeze = "";
  const reckon = async (whom?: string): Promise<{ addresses: number; unreachable: number }> => {
    const hits = (
      await juno.ask<{ kind: string; id: string; name: string; whom?: string }[]>(
        "GET",
        "/api/targets?q=ida",
      )
    ).body;
    const ida = hits.find(({ name }) => name === "Ida Brandt");
    expect(ida?.whom).toBe("guardians");
    return (
      await juno.ask<{ addresses: number; unreachable: number; who?: string }>(
        "POST",
        "/api/drafts/reckon",
        {
          content: {
            to: [
              {
                kind: "person",
                id: ida?.id,
                name: "Ida Brandt",
                ...(whom === undefined ? {} : { whom }),
              },
            ],
          },
          files: 0,
        },
      )
    ).body;
  };

  test("means the guardians, until somebody says the child", async () => {
    expect(await reckon()).toMatchObject({ addresses: 1, unreachable: 0 });
    const { body: hits } = await juno.ask<{ id: string; addresses: string[]; child: boolean }[]>(
      "GET",
      `/api/person-hits?q=${encodeURIComponent("CW-1\nCW-2")}`,
    );
    expect(hits.map(({ addresses, child }) => [...addresses, child])).toEqual([
      ["halim@oakmail.example", true],
      ["tove@lettr.example", true],
    ]);
    const { body: made } = await juno.ask<{ id: string }>("POST", "/api/private-lists", {
      name: "Two families",
      people: hits.map(({ id }) => id),
    });
    trapeze = made.id;
    const page = async () =>
      (
        await juno.ask<{ persons: { addresses: string[] }[] }>(
          "GET",
          `/api/private-lists/${trapeze}`,
        )
      ).body.persons.flatMap(({ addresses }) => addresses);
    expect(await page()).toEqual(["halim@oakmail.example", "tove@lettr.example"]);
    await juno.ask("PUT", `/api/private-lists/${trapeze}`, { children: "themselves" });
    expect(await page()).toEqual(["cw-1@copperwheel.example", "cw-2@copperwheel.example"]);
  });

  test("is for staff, too: they find those whom they may know, several at once, and nobody else", async () => {
    const ravi = await house.signIn(RAVI);
    const { body } = await ravi.ask<{ name: string }[]>(
      "GET",
      `/api/person-hits?q=${encodeURIComponent("Ida Brandt\nKai Moor, halim@oakmail.example")}`,
    );
    expect(body.map(({ name }) => name)).toEqual(["Halim Brandt", "Ida Brandt"]);
  });
});

describe("how often", () => {
  test("a lead settles it for a member, and nobody else does", async () => {
    const ravi = await house.signIn(RAVI);
    const list = await listOf("trapeze two guardians", ravi);
    const path = `/api/lists/${list.id}/members/how-often`;
    const body = { address: "halim@oakmail.example", howOften: "weekly" };
    expect((await ravi.ask("PUT", path, body)).status).toBe(200);
    const { body: page } = await ravi.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${list.id}/members`,
    );
    expect(page.members.map(({ address, howOften }) => `${address} ${howOften}`)).toEqual([
      "halim@oakmail.example weekly",
      "tove@lettr.example every message",
    ]);
    expect((await ravi.ask("PUT", path, { ...body, address: "nobody@lettr.example" })).status).toBe(
      404,
    );
    const teo = await house.signIn("teo.bramwell@copperwheel.example");
    expect((await teo.ask("PUT", path, body)).status).toBe(404);
  });
});

describe("changing many lists", () => {
  test("reaches footers, welcomes and sizes in one round", async () => {
    const names = ["trapeze two guardians", "acro pairs guardians"];
    const lists = await Promise.all(names.map((name) => listOf(name)));
    const points = { footer: "Mill Lane 3", welcome: "Good to have you.", attachmentSize: "5" };
    const edit = {
      what: "lists",
      aliasUntil: "",
      lists: lists.map(({ key }) => ({ key, points })),
    };
    const { body: plan } = await juno.ask<{ version: number }>("POST", "/api/edits/plan", { edit });
    const { status } = await juno.ask("POST", "/api/edits", {
      edit,
      version: plan.version,
      passed: {},
    });
    expect(status).toBe(200);
    for (const name of names) expect((await listOf(name)).rules).toMatchObject(points);
  });
});

describe("where the school is", () => {
  const basics = {
    house: "Copperwheel Circus School",
    kind: "club",
    insideDomain: "copperwheel.example",
    listDomain: "lists.copperwheel.example",
    timeZone: "Europe/Prague",
    country: "CZ",
    language: "cs",
    studentAddress: "{number}@copperwheel.example",
    codes: { "Big Barn": "ML", "Mill Loft": "BB" },
  };
  test("is changed with what follows, codes of sites swapped too, and refused where it contradicts itself", async () => {
    const { versions } = (await juno.ask<{ versions: { basics: string } }>("GET", "/api/house"))
      .body;
    const { status, body } = await juno.ask<{ follows: string[]; version: string }>(
      "PUT",
      "/api/house/basics",
      { ...basics, version: versions.basics },
    );
    expect(status).toBe(200);
    expect(body.follows).toEqual([
      expect.stringContaining("new site code"),
      expect.stringContaining("Europe/Prague"),
    ]);
    expect(
      (
        await juno.ask<{ sites: { code: string; name: string }[] }>("GET", "/api/house")
      ).body.sites.map(({ code, name }) => `${code} ${name}`),
    ).toEqual(["ML Big Barn", "BB Mill Loft"]);
    expect((await juno.ask("GET", "/api/me")).body).toMatchObject({
      timeZone: "Europe/Prague",
      country: "CZ",
      kind: "club",
    });
    await until(
      "days to be written as in that country",
      async () => say({ day: "2027-03-31" }),
      (day) => day.startsWith("31. "),
    );
    for (const [wrong, code] of [
      [{ timeZone: "Mars/Olympus" }, 400],
      [{ country: "cz" }, 400],
      [{ studentAddress: "everybody@copperwheel.example" }, 400],
      [{ codes: { "Big Barn": "XX", "Mill Loft": "xx" } }, 422],
    ] as const)
      expect(
        (await juno.ask("PUT", "/api/house/basics", { ...basics, ...wrong, version: body.version }))
          .status,
      ).toBe(code);
    const ravi = await house.signIn(RAVI);
    expect(
      (await ravi.ask("PUT", "/api/house/basics", { ...basics, version: body.version })).status,
    ).toBe(403);
  });
});

describe("after the next season has opened", () => {
  test("one answer to a form lets nobody leave", async () => {
    const { body: proposed } = await juno.ask<{ wanted: unknown }>("GET", "/api/seasons/next");
    const { body: plan } = await juno.ask<{ version: number }>(
      "POST",
      "/api/seasons/plan",
      proposed.wanted,
    );
    const { status } = await juno.ask("POST", "/api/seasons", {
      wanted: proposed.wanted,
      version: plan.version,
    });
    expect(status).toBe(200);
    await house.readLines(
      juno,
      [
        "Timestamp,Student name,Which class?,Your name,Email",
        "03/09/2027 10:00,Ida Brandt,Trapeze Two,Per Brandt,per@lettr.example",
        "14/09/2027 10:00,Wren Eastlake,Trapeze Two,Tove Eastlake,tove@lettr.example",
      ],
      { name: "Sign-up" },
    );
    expect((await titles()).filter((title) => /^(left|cohort|unreachable)/.test(title))).toEqual(
      [],
    );
    expect(await titles()).toContain("guardian-added Per Brandt");
  });
});

describe("the demo house", () => {
  test("starts over with an empty roster, for whoever is sure", async () => {
    const anybody = house.client();
    expect((await anybody.ask("POST", "/api/demo/empty", {})).status).toBe(400);
    expect((await anybody.ask("POST", "/api/demo/empty", { sure: true })).status).toBe(200);
    const again = await house.signIn(JUNO);
    expect((await again.ask<unknown[]>("GET", "/api/sources")).body).toEqual([]);
    expect((await again.ask<unknown>("GET", "/api/rounds/open")).body).toBeNull();
    expect(await loadDemo(house.amigo.context.db)).toBe(false);
  });

  test("alone can be emptied so", async () => {
    await house.amigo.context.connection.pool.query("update house set demo = false");
    expect((await house.client().ask("POST", "/api/demo/empty", { sure: true })).status).toBe(403);
  });
});
