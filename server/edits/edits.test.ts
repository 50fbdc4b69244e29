import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Board } from "@amigo/contract/board";
import type { AudienceTried } from "@amigo/contract/audiences";
import type { EditDone, EditPlan, EditWanted } from "@amigo/contract/edits";
import type { NamesTried } from "@amigo/contract/naming";
import type { House } from "@amigo/contract/house";
import type { ListHit, ListPage } from "@amigo/contract/lists";
import type { Member } from "@amigo/contract/members";
import type { TakeBack } from "@amigo/contract/rounds";
import {
  JUNO,
  proposedPlan,
  RAVI,
  startTestHouse,
  type Answer,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { roundOf, type WholeRound } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;

const HEAD = "Student no.,Surname,First name,Level,Site,Class,Coach,Parent 1,Email 1,Instrument";
const LINES = [
  "CW-1,Brandt,Ida,4,Mill Loft,Trapeze Two,Sunniva Hale,Halim Brandt,halim@oakmail.example,Drum",
  "CW-2,Eastlake,Wren,5,Mill Loft,Trapeze Two,Sunniva Hale,Tove Eastlake,tove@lettr.example,Violin",
  "CW-3,Nakagawa,Hana,2,Big Barn,Juggling One,Teo Bramwell,Yusuf Nakagawa,yusuf@brightpost.example,Drum",
  "CW-4,Quist,Bram,6,Mill Loft,Wire Walk,Petra Dunmore,Fenna Quist,fenna@fernpost.example,",
];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.readLines(juno, [HEAD, ...LINES], { name: "Roster" });
  await house.step(juno);
  await carryOut(ALLOW);
});
afterAll(() => house.close());

const listOf = async (words: string): Promise<ListHit> => {
  const { body } = await juno.ask<ListHit[]>("GET", `/api/lists?q=${encodeURIComponent(words)}`);
  const [first] = body;
  if (first === undefined) throw new Error(`no list is called ${words}`);
  return first;
};
const pageOf = async (id: string): Promise<ListPage> =>
  (await juno.ask<ListPage>("GET", `/api/lists/${id}`)).body;
const membersOf = async (id: string): Promise<string[]> =>
  (await juno.ask<{ members: Member[] }>("GET", `/api/lists/${id}/members`)).body.members
    .map(({ address }) => address)
    .sort();
/** Changes the naming rules as they are now. */
const changeNaming = async (wanted: Record<string, unknown>) => {
  const { body } = await juno.ask<{ version: string }>("GET", "/api/naming");
  return juno.ask("PUT", "/api/naming", { ...wanted, version: body.version });
};
const plan = (edit: EditWanted): Promise<Answer<EditPlan & { detail: string }>> =>
  juno.ask("POST", "/api/edits/plan", { edit });
const passed = (guards: EditPlan["guards"]): Record<string, number> =>
  Object.fromEntries(guards.map(({ id, count }) => [id, count]));
async function carryOut(edit: EditWanted): Promise<EditDone & { plan: EditPlan }> {
  const { status, body: planned } = await plan(edit);
  if (status !== 200) throw new Error(`${status}: ${planned.detail}`);
  const done = await juno.ask<EditDone & { detail: string }>("POST", "/api/edits", {
    edit,
    version: planned.version,
    passed: passed(planned.guards),
  });
  if (done.status !== 200) throw new Error(`${done.status}: ${done.body.detail}`);
  return { ...done.body, plan: planned };
}
async function takeBack(round: number): Promise<void> {
  const { body } = await juno.ask<TakeBack>("GET", `/api/rounds/${round}/back`);
  const { status } = await juno.ask("POST", `/api/rounds/${round}/back`, {
    passed: passed(body.guards),
  });
  expect(status).toBe(200);
}
const recipe = async (name: string): Promise<House["recipes"][number]> => {
  const found = (await juno.ask<House>("GET", "/api/house")).body.recipes.find(
    ({ value }) => value.name === name,
  );
  if (found === undefined) throw new Error(`no recipe ${name}`);
  return found;
};
const single = (key: string, title: string, audience: string, keep: string[] = []): EditWanted => ({
  what: "lists",
  aliasUntil: "",
  lists: [
    {
      key,
      keep,
      points: { title, name: title.toLowerCase().replace(/\W+/g, "-"), audience, outside: "any" },
    },
  ],
});

/** Lets lists of any people have outside addresses, as many houses do. */
const ALLOW = {
  what: "house",
  bounds: { "other outside": { allowed: "none|guardians|any", usual: "none" } },
  invariants: {},
  presets: {},
  aliasUntil: "",
} as const;

describe("an audience while it is typed", () => {
  const tried = async (text: string, each = ""): Promise<AudienceTried> =>
    (await juno.ask<AudienceTried>("POST", "/api/audiences/try", { text, each })).body;

  test("is read back, counted, and shows who first and why", async () => {
    expect(
      await tried('guardians of students where level >= 5 + coaches of "Trapeze Two"'),
    ).toMatchObject({
      faults: [],
      sentence:
        "The guardians of the students whose level is at least 5 and the coaches of Trapeze Two.",
      people: 3,
      addresses: 3,
      first: expect.arrayContaining([
        { name: "Tove Eastlake", because: "guardian of Wren Eastlake", reached: true },
      ]),
    });
    expect(await tried("students in this class", "class")).toMatchObject({
      faults: [],
      example: expect.stringMatching(/./),
      people: expect.any(Number),
    });
  });

  test("tells a fault at its place with a proposal, and completes the house's names", async () => {
    expect((await tried('students in "Trapeze Tow"')).faults).toEqual([
      expect.objectContaining({ at: 12, proposal: '"Trapeze Two"' }),
    ]);
    expect((await tried("students in this class")).faults[0]?.sentence).toContain(
      "only in a recipe",
    );
    expect((await tried('students in "wi')).completions.map(({ text }) => text)).toEqual([
      '"Wire Walk"',
    ]);
    expect(await tried("")).toMatchObject({ faults: [], people: 0 });
  });

  test("a further column counts once its meaning was chosen", async () => {
    expect((await tried("students where instrument is drum")).faults[0]?.sentence).toContain(
      "No sheet has a column",
    );
    const bytes = new TextEncoder().encode([HEAD, ...LINES].join("\n"));
    const planned = proposedPlan(bytes);
    const form = new FormData();
    form.set("file", new File([bytes], "roster.csv"));
    form.set(
      "plan",
      JSON.stringify({
        ...planned,
        columns: planned.columns.map((column) =>
          column.title === "Instrument" ? { ...column, meaning: "detail", slot: 1 } : column,
        ),
      }),
    );
    const { body: sources } = await juno.ask<{ id: string }[]>("GET", "/api/sources");
    expect(
      (await juno.ask("POST", `/api/sources/${sources[0]?.id ?? ""}/readings`, form)).status,
    ).toBe(200);
    const round = await roundOf(juno);
    expect(round.causes.map(({ kind, title, detail }) => `${kind} ${title} ${detail}`)).toContain(
      "detail Ida Brandt Instrument none → Drum",
    );
    await house.step(juno);
    expect(await tried("guardians of students where instrument is drum")).toMatchObject({
      faults: [],
      people: 2,
    });
  });
});

describe("a recipe", () => {
  test("changed shows beforehand what it does, does it as a round, and can be taken back", async () => {
    const { id, value } = await recipe("Guardians of each class");
    const list = await listOf("trapeze two guardians");
    const before = await membersOf(list.id);
    const done = await carryOut({
      what: "recipe",
      recipe: id,
      value: { ...value, audience: "guardians of students in this class + coaches of this class" },
      aliasUntil: "",
    });
    expect(done.plan.totals).toMatchObject({ joins: 3, leaves: 0 });
    expect(done.plan.lists.map(({ what, joins }) => [what, joins])).toEqual([
      ["changed", 1],
      ["changed", 1],
      ["changed", 1],
    ]);
    expect(await membersOf(list.id)).toEqual(
      [...before, "sunniva.hale@copperwheel.example"].sort(),
    );
    const round = await roundOf(juno, done.round);
    expect(round).toMatchObject({
      state: "done",
      causes: [{ kind: "recipe", title: "Guardians of each class", joins: 3 }],
    });
    await takeBack(done.round);
    expect(await membersOf(list.id)).toEqual(before);
  });

  test("that is new makes its lists, ended it closes them, and their addresses say so", async () => {
    const { value } = await recipe("Guardians of each class");
    const done = await carryOut({
      what: "recipe",
      recipe: 20,
      value: {
        ...value,
        name: "Guardians of each site",
        label: "Families",
        each: "site",
        audience: "guardians of students at this site",
        leads: "",
        pattern: "{site}-families-{season}",
      },
      aliasUntil: "",
    });
    expect(done.plan.lists.map(({ what, after, joins }) => [what, after, joins])).toEqual([
      ["made", "bb-families-2627", 1],
      ["made", "ml-families-2627", 3],
    ]);
    const { body: board } = await juno.ask<Board>("GET", "/api/board");
    expect(board.others.map(({ name, count }) => [name, count])).toEqual(
      expect.arrayContaining([
        ["ml-families-2627", 3],
        ["bb-families-2627", 1],
        ["staff-2627", 7],
      ]),
    );
    const ended = await carryOut({ what: "recipe", recipe: 20, value: null, aliasUntil: "" });
    expect(ended.plan.lists.map(({ what }) => what)).toEqual(["closed", "closed"]);
    await house.mail({
      from: JUNO,
      as: JUNO,
      to: "ml-families-2627@lists.copperwheel.example",
      subject: "Is anybody there",
    });
    const back = await house.mailTo(JUNO, "Returned: Is anybody there");
    expect(back).toContain("This list is closed");
  });

  test.each<[string, Partial<House["recipes"][number]["value"]>, RegExp]>([
    [
      "an audience that is not understood",
      { audience: "guardians students" },
      /mistake at character 11/,
    ],
    [
      "an unknown class",
      { audience: 'students in "Nowhere"' },
      /No class, team, committee or site is called "Nowhere"/,
    ],
    ["an unknown part", { pattern: "{moon}" }, /no part \{moon\}/],
    ["a condition on what no class has", { condition: "moon is full" }, /no "moon"/],
    ["two lists of one name", { pattern: "same-for-all" }, /^$/],
  ])("with %s is refused with a sentence, or given a way out", async (_what, change, sentence) => {
    const { id, value } = await recipe("Coaches of each class");
    const { status, body } = await plan({
      what: "recipe",
      recipe: id,
      value: { ...value, ...change },
      aliasUntil: "",
    });
    if (sentence.source === "^$")
      expect(new Set(body.lists.map(({ after }) => after)).size).toBe(3);
    else {
      expect(status).toBe(422);
      expect(body.detail).toMatch(sentence);
    }
  });
});

describe("names", () => {
  test("the workshop shows old and new side by side with what is wrong, carried out they lead on until a day", async () => {
    const { id } = await recipe("Guardians of each class");
    const tried = async (
      patterns: Record<string, string>,
      shorts: Record<string, string | null> = {},
    ): Promise<NamesTried> =>
      (await juno.ask<NamesTried>("POST", "/api/names/try", { patterns, shorts })).body;
    const { rows, shorts } = await tried({ [id]: "{class:initials}" }, { "Wire Walk": "w" });
    const ofRecipe = rows.filter(({ recipe: of }) => of === id);
    expect(
      ofRecipe.map(({ now, made, proposal, faults }) => [
        now,
        made,
        proposal,
        faults.map(({ fault }) => fault).join(),
      ]),
    ).toEqual(
      expect.arrayContaining([
        ["ml-trapeze2-parents-2627", "t2", "t2", ""],
        ["ml-wire-parents-2627", "ww", "ww", ""],
      ]),
    );
    expect(shorts.find(({ name }) => name === "Wire Walk")).toEqual({
      name: "Wire Walk",
      short: "w",
      chosen: true,
    });
    expect((await tried({ [id]: "{moon}" })).faults).toEqual([
      expect.objectContaining({ recipe: id, sentence: expect.stringContaining("{moon}") }),
    ]);
    expect(
      (await tried({ [id]: "postmaster" })).rows
        .filter(({ recipe: of }) => of === id)
        .every(({ faults }) =>
          faults.some(({ fault }) => fault === "reserved" || fault === "ambiguous"),
        ),
    ).toBe(true);

    const list = await listOf("trapeze two guardians");
    const { key } = await pageOf(list.id);
    const { round } = await carryOut({
      what: "names",
      patterns: { [id]: "{class}-families" },
      shorts: { "Trapeze Two": "trap" },
      names: { [key]: "trap-families" },
      aliasUntil: "2027-07-31",
    });
    expect(await pageOf(list.id)).toMatchObject({
      name: "trap-families",
      aliases: [{ name: "ml-trapeze2-parents-2627", until: "2027-07-31" }],
    });
    await house.mail({
      from: JUNO,
      as: JUNO,
      to: "ml-trapeze2-parents-2627@lists.copperwheel.example",
      subject: "By the old address",
    });
    expect(await house.mailTo("tove@lettr.example", "By the old address")).toContain(
      "trap-families@lists.copperwheel.example",
    );
    const taken = await plan(single(crypto.randomUUID(), "ml-trapeze2-parents-2627", "staff"));
    expect([taken.status, taken.body.detail]).toEqual([
      422,
      expect.stringContaining("Another list is called"),
    ]);
    await takeBack(round);
    expect(await pageOf(list.id)).toMatchObject({ name: "ml-trapeze2-parents-2627", aliases: [] });
    const recent = await plan(single(crypto.randomUUID(), "trap-families", "staff"));
    expect([recent.status, recent.body.detail]).toEqual([
      422,
      expect.stringContaining("within the last two seasons"),
    ]);
  });

  test("a name of last season's list is not given to another", async () => {
    const { status, body } = await plan(single(crypto.randomUUID(), "bb-seeds-2526", "staff"));
    expect([status, body.detail]).toEqual([
      422,
      expect.stringContaining("within the last two seasons"),
    ]);
  });

  test.each([
    ["postmaster", /reserved name/],
    ["Ä", /characters that list addresses/],
    ["a".repeat(60), /60 characters/],
    ["", /makes no name/],
  ])("%j is no name", async (name, sentence) => {
    const { status, body } = await plan({
      what: "lists",
      aliasUntil: "",
      lists: [{ key: crypto.randomUUID(), points: { title: "Some", name, audience: "staff" } }],
    });
    expect(status).toBe(422);
    expect(body.detail).toMatch(sentence);
  });

  test("a breach of the convention is told with the name it would make; where it binds it is refused", async () => {
    const list = await listOf("juggling one guardians");
    const { key } = await pageOf(list.id);
    const { round } = await carryOut({
      what: "lists",
      aliasUntil: "2027-07-31",
      lists: [{ key, points: { name: "jugglers" } }],
    });
    expect((await pageOf(list.id)).breach).toEqual({
      sentence: expect.stringContaining("bb-jugg1-parents-2627"),
      proposal: "bb-jugg1-parents-2627",
    });
    await takeBack(round);
    expect((await pageOf(list.id)).breach).toBeNull();
    expect(
      (
        await changeNaming({
          nameLimit: 20,
          reserved: ["press"],
          convention: "binds",
        })
      ).status,
    ).toBe(200);
    const { status, body } = await plan({
      what: "lists",
      aliasUntil: "2027-07-31",
      lists: [{ key, points: { name: "jugglers" } }],
    });
    expect([status, body.detail]).toEqual([
      422,
      expect.stringContaining("Names have to follow your naming rules"),
    ]);
    expect((await pageOf(list.id)).breach?.sentence).toContain("recommend at most 20");
    expect((await plan(single(crypto.randomUUID(), "press", "staff"))).body.detail).toContain(
      "reserved name",
    );
    await changeNaming({ nameLimit: 30, reserved: [], convention: "advises" });
  });
});

describe("single lists and many at once", () => {
  test("a list by audience, by hand-picked people and pasted addresses is made, found by its short name, and closed", async () => {
    const key = crypto.randomUUID();
    const edit = single(
      key,
      "Van drivers",
      'coaches of "Wire Walk" + "Halim Brandt" (halim@oakmail.example)',
      ["quincy@mailhaven.example"],
    );
    await carryOut(edit);
    expect(await membersOf(key)).toEqual([
      "halim@oakmail.example",
      "petra.dunmore@copperwheel.example",
      "quincy@mailhaven.example",
    ]);
    expect(await pageOf(key)).toMatchObject({
      recipe: null,
      title: "Van drivers",
      address: "van-drivers@lists.copperwheel.example",
      audienceSentence: "The coaches of Wire Walk and Halim Brandt (halim@oakmail.example).",
    });
    await carryOut({
      what: "lists",
      aliasUntil: "",
      lists: [{ key, points: { short: "vd, drivers", description: "Who drives to the shows" } }],
    });
    expect((await listOf("vd")).id).toBe(key);
    expect((await juno.ask("PUT", `/api/lists/${key}/own-short`, { short: "bus" })).status).toBe(
      200,
    );
    expect((await listOf("bus")).id).toBe(key);
    const ravi = await house.signIn(RAVI);
    expect((await ravi.ask<ListHit[]>("GET", "/api/lists?q=bus")).body).toEqual([]);
    await carryOut({
      what: "lists",
      aliasUntil: "",
      lists: [{ key, points: { state: "closed" } }],
    });
    expect((await pageOf(key)).state).toBe("closed");
    expect(
      (
        await juno.ask("POST", `/api/lists/${key}/kept`, {
          address: "x@lettr.example",
          side: "on",
          reason: "x",
        })
      ).status,
    ).toBe(409);
    const tried = await juno.ask("POST", `/api/lists/${key}/try`, {
      address: JUNO,
      proof: "signed-in",
    });
    expect(tried.body).toMatchObject({
      outcome: "returned",
      reasons: [
        { rule: "closed", sentence: "This list is closed. Nobody gets mail from it any more." },
      ],
    });
    await carryOut({ what: "lists", aliasUntil: "", lists: [{ key, points: { state: "open" } }] });
    expect(await membersOf(key)).toHaveLength(3);
  });

  test("an empty cell of the board is made on the spot", async () => {
    const { body: board } = await juno.ask<Board>("GET", "/api/board");
    const row = board.sites.flatMap(({ rows }) => rows).find(({ name }) => name === "Wire Walk");
    const key = row?.cells[2]?.key ?? "";
    await carryOut({
      what: "lists",
      aliasUntil: "",
      lists: [{ key, points: { state: "closed" } }],
    });
    const cellOf = async () =>
      (await juno.ask<Board>("GET", "/api/board")).body.sites
        .flatMap(({ rows }) => rows)
        .find(({ name }) => name === "Wire Walk")?.cells[2];
    expect(await cellOf()).toMatchObject({ list: null, closed: true, key });
    await carryOut({ what: "lists", aliasUntil: "", lists: [{ key, points: { state: null } }] });
    expect(await cellOf()).toMatchObject({
      list: expect.any(String),
      count: 1,
      leads: ["Petra Dunmore"],
    });
  });

  test("a lead of many lists changes in one round, and each can return to its recipe", async () => {
    const pages = await Promise.all(
      ["trapeze two students", "wire walk students"].map(async (words) =>
        pageOf((await listOf(words)).id),
      ),
    );
    const staff = (await juno.ask<House>("GET", "/api/house")).body.staff.find(
      ({ name }) => name === "Marta Okonjo",
    );
    await carryOut({
      what: "lists",
      aliasUntil: "",
      lists: pages.map(({ key }) => ({ key, points: { leads: staff?.id ?? "" } })),
    });
    for (const { id } of pages)
      expect(await pageOf(id)).toMatchObject({
        leads: ["Marta Okonjo"],
        apart: [{ point: "leads" }],
      });
    await carryOut({
      what: "lists",
      aliasUntil: "",
      lists: pages.map(({ key }) => ({ key, points: { leads: null } })),
    });
    expect((await pageOf(pages[0]?.id ?? "")).leads).toEqual(["Sunniva Hale"]);
  });

  test("outside addresses on a list for inside ones stand behind a guard", async () => {
    const key = crypto.randomUUID();
    const edit: EditWanted = {
      what: "lists",
      aliasUntil: "",
      lists: [
        {
          key,
          points: {
            title: "Inside",
            name: "inside-only",
            audience: 'guardians of "Trapeze Two"',
            outside: "none",
          },
        },
      ],
    };
    const { body } = await plan(edit);
    expect(body.guards.map(({ count }) => count)).toEqual([2]);
    expect(
      (await juno.ask("POST", "/api/edits", { edit, version: body.version, passed: {} })).status,
    ).toBe(422);
  });

  const OWN = "5b1f6c1e-0000-4000-8000-00000000000a";
  const points = { title: "Some", name: "some-list", audience: "staff" };
  test.each<[string, Extract<EditWanted, { what: "lists" }>["lists"][number], RegExp]>([
    ["a key that no list can have", { key: "../x", points }, /There is no list/],
    [
      "a recipe that is not there",
      { key: "99:class:wire walk", points: { state: "open" } },
      /There is no list/,
    ],
    [
      "a class that is not there",
      { key: "1:class:nowhere", points: { state: "open" } },
      /There is no list/,
    ],
    [
      "no display name",
      { key: OWN, points: { name: "some-list", audience: "staff" } },
      /Give the list a display name/,
    ],
    [
      "a line break in its name",
      { key: OWN, points: { ...points, title: "A\r\nBcc: x" } },
      /has to be one line/,
    ],
    [
      "rules that are none",
      { key: OWN, points: { ...points, preset: "shout" } },
      /no posting rules called "shout"/,
    ],
    [
      "rules by a word of the language",
      { key: OWN, points: { ...points, preset: "constructor" } },
      /no posting rules called "constructor"/,
    ],
    [
      "a lead who is a stranger",
      { key: OWN, points: { ...points, leads: "account:nobody" } },
      /Nobody on the staff/,
    ],
    [
      "an address that is none",
      { key: OWN, points, keep: ["x@lettr.example\r\nRCPT TO:<y@lettr.example>"] },
      /is not an address/,
    ],
    [
      "an address with a slip",
      { key: OWN, points, keep: ["rosa@lettr,example"] },
      /is not an address/,
    ],
  ])("with %s nothing is planned", async (_what, given, sentence) => {
    const { status, body } = await plan({ what: "lists", aliasUntil: "", lists: [given] });
    expect(status).toBe(422);
    expect(body.detail).toMatch(sentence);
  });

  test("two who edit at once: the second is told to look again", async () => {
    const edit = (title: string): EditWanted => ({
      what: "lists",
      aliasUntil: "",
      lists: [{ key: crypto.randomUUID(), points: { title, name: title, audience: "staff" } }],
    });
    const [one, two] = [edit("first-one"), edit("second-one")];
    const { body } = await plan(one);
    const answers = await Promise.all(
      [one, two].map((item) =>
        juno.ask<{ type: string }>("POST", "/api/edits", {
          edit: item,
          version: body.version,
          passed: {},
        }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(answers.find(({ status }) => status === 409)?.body.type).toContain("edit/changed");
  });

  test("a round that is open is counted again by the lists as they are now, and still brings them in step", async () => {
    const { body: sources } = await juno.ask<{ id: string }[]>("GET", "/api/sources");
    await house.readLines(
      juno,
      [
        HEAD,
        ...LINES,
        "CW-5,Holm,Una,6,Mill Loft,Wire Walk,Petra Dunmore,Otto Holm,otto@lettr.example,Drum",
      ],
      { id: sources[0]?.id ?? "" },
    );
    const open = async (): Promise<WholeRound> => await roundOf(juno);
    const before = await open();
    const { value } = await recipe("Guardians of each class");
    await carryOut({
      what: "recipe",
      recipe: 30,
      value: {
        ...value,
        name: "Guardians of Mill Loft",
        label: "Loft",
        each: "site",
        condition: 'name is "Mill Loft"',
        audience: "guardians of students at this site",
        leads: "",
        pattern: "{site}-all-{season}",
      },
      aliasUntil: "",
    });
    const after = await open();
    expect([after.number, after.totals.joins - before.totals.joins]).toEqual([before.number, 1]);
    expect(after.version).toBeGreaterThan(before.version);
    await house.step(juno);
    expect(await membersOf((await listOf("mill loft loft")).id)).toContain("otto@lettr.example");
  });

  test("nothing is edited by whoever may not", async () => {
    const ravi = await house.signIn(RAVI);
    expect(
      (
        await ravi.ask("POST", "/api/edits/plan", {
          edit: single(crypto.randomUUID(), "mine", "staff"),
        })
      ).status,
    ).toBe(403);
  });
});
