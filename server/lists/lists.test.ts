import { readFileSync } from "node:fs";
import { join } from "node:path";
import ICAL from "ical.js";
import { read, utils } from "@e965/xlsx";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import type { EditWanted } from "@amigo/contract/edits";
import type { ListHit, ListPage } from "@amigo/contract/lists";
import type { Member } from "@amigo/contract/members";
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
let guardians = "";
let students = "";

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const LINES = [
  "CW-1,Brandt,Ida,Mill Loft,Trapeze Two,Sunniva Hale,Halim Brandt,halim@oakmail.example",
  'CW-2,Eastlake,Wren,Mill Loft,Trapeze Two,Sunniva Hale,"=HYPERLINK(""x"")",tove@lettr.example',
];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.readLines(juno, [HEAD, ...LINES], { name: "Roster" });
  await house.step(juno);
  const id = async (words: string): Promise<string> =>
    (await juno.ask<ListHit[]>("GET", `/api/lists?q=${encodeURIComponent(words)}`)).body[0]?.id ??
    "";
  guardians = await id("trapeze two guardians");
  students = await id("trapeze two students");
});
afterAll(() => house.close());

interface Pasted {
  lines: { written: string; address: string; outcome: string; sentence: string; who: string }[];
  leftOver: string[];
}
const paste = async (list: string, text: string): Promise<Pasted> =>
  (await juno.ask<Pasted>("POST", `/api/lists/${list}/pasted`, { text })).body;
const members = async (list: string): Promise<Member[]> =>
  (await juno.ask<{ members: Member[] }>("GET", `/api/lists/${list}/members`)).body.members;
async function edit(wanted: EditWanted): Promise<void> {
  const { body } = await juno.ask<{ version: number; guards: { id: string; count: number }[] }>(
    "POST",
    "/api/edits/plan",
    { edit: wanted },
  );
  const { status } = await juno.ask("POST", "/api/edits", {
    edit: wanted,
    version: body.version,
    passed: Object.fromEntries(body.guards.map(({ id, count }) => [id, count])),
  });
  expect(status).toBe(200);
}
const keyOf = async (list: string): Promise<string> =>
  (await juno.ask<ListPage>("GET", `/api/lists/${list}`)).body.key;

describe("members by pasting", () => {
  test("each address is answered, and nothing of the text goes missing", async () => {
    const { lines, leftOver } = await paste(
      guardians,
      "Halim <halim@oakmail.example>; new.one@lettr.example, second,one@lettr.example\nTOVE@lettr.example new.one@lettr.example and somebody without; broken@@oakmail",
    );
    expect(lines.map(({ address, outcome }) => `${outcome} ${address}`)).toEqual(
      expect.arrayContaining([
        "already there halim@oakmail.example",
        "to add new.one@lettr.example",
        "already there tove@lettr.example",
        "twice new.one@lettr.example",
      ]),
    );
    expect(lines.find(({ address }) => address === "halim@oakmail.example")?.who).toBe(
      "Halim Brandt",
    );
    expect(
      lines
        .filter(({ outcome }) => outcome === "unusable" || outcome === "repaired")
        .every(({ sentence }) => sentence.endsWith(".") || sentence.includes(":")),
    ).toBe(true);
    expect(leftOver.join(" ")).toContain("somebody without");
  });

  test("on a list for inside addresses an outside one is told what can be done, and not let on", async () => {
    expect(
      (await paste(students, "someone@oakmail.example; cw-9@copperwheel.example")).lines.map(
        ({ outcome }) => outcome,
      ),
    ).toEqual(["outside", "to add"]);
    const { status, body } = await juno.ask<{ detail: string }>(
      "POST",
      `/api/lists/${students}/members`,
      { addresses: ["someone@oakmail.example"], how: "quietly", reason: "helps" },
    );
    expect([status, body.detail]).toEqual([
      422,
      expect.stringContaining("this list takes inside addresses only"),
    ]);
  });

  test("the sample of a pasted mess counts in what it counts out", async () => {
    const text = readFileSync(join(SAMPLES_FOLDER, "pasted.txt"), "utf8");
    const { lines } = await paste(guardians, text);
    expect(lines.length).toBeGreaterThan(10);
    const coming = lines
      .filter(({ outcome }) => outcome === "to add" || outcome === "repaired")
      .map(({ address }) => address);
    const { body } = await juno.ask<{ added: number; asked: number; already: number }>(
      "POST",
      `/api/lists/${guardians}/members`,
      { addresses: [...coming, "halim@oakmail.example"], how: "quietly", reason: "pasted" },
    );
    expect(body).toEqual({ added: coming.length, asked: 0, already: 1, waiting: 0 });
    expect(await members(guardians)).toHaveLength(coming.length + 2);
    expect(house.sink.mails).toEqual([]);
    for (const address of coming)
      await juno.ask("POST", `/api/lists/${guardians}/let-go`, { address });
    expect(await members(guardians)).toHaveLength(2);
  });
});

describe("coming onto a list", () => {
  test("with its welcome, in the list's own words", async () => {
    await edit({
      what: "lists",
      aliasUntil: "",
      lists: [
        {
          key: await keyOf(guardians),
          points: { welcome: "Welcome to {list}. Its address is {address}." },
        },
      ],
    });
    await juno.ask("POST", `/api/lists/${guardians}/members`, {
      addresses: ["quincy@mailhaven.example"],
      how: "welcome",
      reason: "drives",
    });
    const mail = await house.mailTo(
      "quincy@mailhaven.example",
      "Subject: Welcome to Trapeze Two, guardians",
    );
    expect(mail).toContain(
      "Welcome to Trapeze Two, guardians. Its address is ml-trapeze2-parents-2627@lists.copperwheel.example.",
    );
    expect(mail).toMatch(/Auto-Submitted: auto-generated/i);
  });

  test("by asking first: nobody is on it before the yes, which counts once", async () => {
    const { body } = await juno.ask("POST", `/api/lists/${guardians}/members`, {
      addresses: ["rosa@lettr.example"],
      how: "ask",
      reason: "wants to help",
      lastDay: "2027-06-30",
    });
    expect(body).toEqual({ added: 0, asked: 1, already: 0, waiting: 0 });
    expect((await members(guardians)).map(({ address }) => address)).not.toContain(
      "rosa@lettr.example",
    );
    expect((await juno.ask<ListPage>("GET", `/api/lists/${guardians}`)).body.asked).toBe(1);
    const mail = await house.mailTo("rosa@lettr.example", "Would you like to be on");
    const path = /\/yes\/[A-Za-z0-9_-]+/.exec(mail)?.[0] ?? "";
    const nobody = house.client();
    expect((await nobody.ask<string>("GET", path)).body).toContain("rosa@lettr.example");
    expect((await members(guardians)).map(({ address }) => address)).not.toContain(
      "rosa@lettr.example",
    );
    const answers = await Promise.all([
      nobody.ask<string>("POST", path),
      nobody.ask<string>("POST", path),
    ]);
    expect(answers.map(({ status }) => status)).toEqual([200, 200]);
    expect(
      (await members(guardians)).find(({ address }) => address === "rosa@lettr.example")?.kept,
    ).toMatch(
      /^always on this list, set by Juno Abara until 30 Jun 2027: wants to help \(asked by Juno Abara, said yes\)$/,
    );
    expect((await nobody.ask<string>("POST", "/yes/nothing-of-the-kind")).status).toBe(404);
  });

  test("a recipe that asks first asks whom its audience brings, and withdraws it when they are gone", async () => {
    await edit({
      what: "lists",
      aliasUntil: "",
      lists: [{ key: await keyOf(guardians), points: { adding: "ask" } }],
    });
    const { body: sources } = await juno.ask<{ id: string }[]>("GET", "/api/sources");
    const source = { id: sources[0]?.id ?? "" };
    await house.readLines(
      juno,
      [
        HEAD,
        ...LINES,
        "CW-3,Holm,Una,Mill Loft,Trapeze Two,Sunniva Hale,Otto Holm,otto@lettr.example",
        "CW-4,Quist,Bram,Mill Loft,Trapeze Two,Sunniva Hale,Fenna Quist,fenna@fernpost.example",
      ],
      source,
    );
    await house.step(juno);
    const addresses = async (): Promise<string[]> =>
      (await members(guardians)).map(({ address }) => address);
    expect(await addresses()).toEqual(
      expect.not.arrayContaining(["otto@lettr.example", "fenna@fernpost.example"]),
    );
    const path =
      /\/yes\/[A-Za-z0-9_-]+/.exec(
        await house.mailTo("otto@lettr.example", "Would you like to be on"),
      )?.[0] ?? "";
    const other =
      /\/yes\/[A-Za-z0-9_-]+/.exec(
        await house.mailTo("fenna@fernpost.example", "Would you like to be on"),
      )?.[0] ?? "";
    expect((await house.client().ask("POST", path)).status).toBe(200);
    expect(await addresses()).toContain("otto@lettr.example");
    await house.readLines(
      juno,
      [
        HEAD,
        ...LINES,
        "CW-3,Holm,Una,Mill Loft,Trapeze Two,Sunniva Hale,Otto Holm,otto@lettr.example",
      ],
      source,
    );
    await house.step(juno);
    expect(await addresses()).toContain("otto@lettr.example");
    expect((await house.client().ask("POST", other)).status).toBe(404);
    expect(
      house.sink.mails.filter(
        ({ to, raw }) => to === "otto@lettr.example" && raw.includes("Would you like"),
      ),
    ).toHaveLength(1);
  });

  test("where members leave through a lead, the page behind the link says whom to ask and changes nothing", async () => {
    await edit({
      what: "lists",
      aliasUntil: "",
      lists: [{ key: await keyOf(guardians), points: { leaving: "through a lead" } }],
    });
    await juno.ask("POST", "/api/posts", {
      lists: [guardians],
      subject: "About leaving",
      text: "Hello.",
      key: crypto.randomUUID(),
    });
    const copy = await house.mailTo("halim@oakmail.example", "About leaving");
    expect(copy).not.toContain("List-Unsubscribe-Post");
    const path = /\/leave\/[\w.-]+/.exec(copy)?.[0] ?? "";
    expect((await house.client().ask<string>("GET", path)).body).toContain("Sunniva Hale");
    expect((await house.client().ask("POST", path)).status).toBe(403);
    expect((await members(guardians)).map(({ address }) => address)).toContain(
      "halim@oakmail.example",
    );
    await until(
      "the delivery in the table",
      () => members(guardians),
      (all) => all.find(({ address }) => address === "halim@oakmail.example")?.state === "reached",
    );
  });
});

describe("files", () => {
  const file = async (
    format: string,
    lists: string[],
    client = juno,
  ): Promise<{ status: number; type: string; bytes: Uint8Array }> => {
    const response = await fetch(
      `${house.url}/api/lists/export/${format}?lists=${lists.join(",")}`,
      { headers: { Cookie: client.cookie } },
    );
    return {
      status: response.status,
      type: response.headers.get("content-type") ?? "",
      bytes: new Uint8Array(await response.arrayBuffer()),
    };
  };

  test.each(["csv", "xlsx", "ods"])(
    "as %s they open as a table, with formulas made harmless",
    async (format) => {
      const { status, bytes } = await file(format, [guardians, students]);
      expect(status).toBe(200);
      const book = read(bytes, { type: "array" });
      const rows = utils.sheet_to_json<string[]>(book.Sheets[book.SheetNames[0] ?? ""] ?? {}, {
        header: 1,
        raw: false,
      });
      expect(rows[0]?.slice(0, 4)).toEqual(["List", "List address", "Name", "Address"]);
      expect(rows.map((row) => row[3])).toEqual(
        expect.arrayContaining(["halim@oakmail.example", "cw-1@copperwheel.example"]),
      );
      expect(rows.find((row) => row[3] === "tove@lettr.example")?.[2]).toMatch(/^'=HYPERLINK/);
    },
  );

  test("as vCard 4.0 the list is a group that names its members", async () => {
    const { type, bytes } = await file("vcf", [guardians]);
    expect(type).toContain("text/vcard");
    const text = new TextDecoder().decode(bytes);
    const cards = text
      .split("END:VCARD")
      .filter((card) => card.includes("BEGIN"))
      .map((card) => new ICAL.Component(ICAL.parse(`${card.trim()}\r\nEND:VCARD`) as string));
    const [group, ...people] = cards;
    expect([
      group?.getFirstPropertyValue("version"),
      group?.getFirstPropertyValue("kind"),
      group?.getFirstPropertyValue("fn"),
    ]).toEqual(["4.0", "group", "Trapeze Two, guardians"]);
    expect(group?.getAllProperties("member").map((property) => property.getFirstValue())).toContain(
      "mailto:halim@oakmail.example",
    );
    expect(people.map((person) => person.getFirstPropertyValue("email"))).toContain(
      "halim@oakmail.example",
    );
  });

  test("as plain addresses, each once", async () => {
    const lines = new TextDecoder()
      .decode((await file("txt", [guardians, guardians])).bytes)
      .trim()
      .split("\r\n");
    expect(new Set(lines).size).toBe(lines.length);
    expect(lines).toContain("halim@oakmail.example");
  });

  test.each<[string, () => Promise<number>, number]>([
    ["an unknown format", async () => (await file("exe", [guardians])).status, 400],
    ["no list", async () => (await file("csv", [])).status, 400],
    [
      "somebody signed out",
      async () => (await file("csv", [guardians], house.client())).status,
      401,
    ],
    [
      "another's list",
      async () => (await file("csv", [guardians], await house.signIn(RAVI))).status,
      404,
    ],
    [
      "a site coordinator's own site",
      async () => (await file("csv", [guardians], await house.signIn(ODILE))).status,
      200,
    ],
  ])("for %s", async (_what, ask, status) => expect(await ask()).toBe(status));
});

describe("who finds a list", () => {
  test("one that the whole staff may find completes for a coach, who is then told that they may not write", async () => {
    const ravi = await house.signIn(RAVI);
    const { body } = await ravi.ask<ListHit[]>("GET", "/api/lists?q=staff");
    expect(body.map(({ name }) => name)).toEqual(["staff-2627"]);
    const id = body[0]?.id ?? "";
    expect(
      (await ravi.ask<{ refused: string[] }>("POST", "/api/posts/reckon", { lists: [id] })).body
        .refused[0],
    ).toContain("Leads, helpers and coordinators may write");
    expect((await ravi.ask("GET", `/api/lists/${id}/members`)).status).toBe(404);
    expect((await ravi.ask<ListHit[]>("GET", "/api/lists?q=trapeze")).body).toEqual([]);
  });
});
