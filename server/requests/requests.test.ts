import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { EditPlan, EditWanted, Making } from "@amigo/contract/edits";
import type { House } from "@amigo/contract/house";
import type { ListHit, ListPage } from "@amigo/contract/lists";
import type { RequestLine } from "@amigo/contract/requests";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { roundOf } from "../testing/roundOf";

const TEO = "teo.bramwell@copperwheel.example";
const FAMILIES = [
  "aholloway@mailhaven.example",
  "pbellweather@fernpost.example",
  "cingleby@lettr.example",
];

let house: TestHouse;
let juno: Client;
let teo: Client;
let ravi: Client;
let self = "";

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  teo = await house.signIn(TEO);
  ravi = await house.signIn(RAVI);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  self = (await teo.ask<Making>("GET", "/api/making")).body.self;
});
afterAll(() => house.close());

type Points = Extract<EditWanted, { what: "lists" }>["lists"][number]["points"];
const listEdit = (key: string, points: Points, keep: string[] = []): EditWanted => ({
  what: "lists",
  aliasUntil: "",
  lists: [{ key, keep, points }],
});
/** Changes the naming rules as they are now. */
const changeNaming = async (wanted: Record<string, unknown>) => {
  const { body } = await juno.ask<{ version: string }>("GET", "/api/naming");
  return juno.ask("PUT", "/api/naming", { ...wanted, version: body.version });
};
const plan = (client: Client, edit: EditWanted) =>
  client.ask<EditPlan & { type: string; detail: string; field?: string }>(
    "POST",
    "/api/edits/plan",
    { edit },
  );
async function carryOut(client: Client, edit: EditWanted): Promise<void> {
  const planned = await plan(client, edit);
  if (planned.status !== 200) throw new Error(planned.body.detail);
  const done = await client.ask<{ detail: string }>("POST", "/api/edits", {
    edit,
    version: planned.body.version,
    passed: Object.fromEntries(planned.body.guards.map(({ id, count }) => [id, count])),
  });
  if (done.status !== 200) throw new Error(done.body.detail);
}
const listOf = async (client: Client, words: string): Promise<ListPage> => {
  const { body } = await client.ask<ListHit[]>("GET", `/api/lists?q=${encodeURIComponent(words)}`);
  return (await client.ask<ListPage>("GET", `/api/lists/${body[0]?.id ?? ""}`)).body;
};
const open = async (client: Client): Promise<RequestLine[]> =>
  (await client.ask<RequestLine[]>("GET", "/api/requests")).body.filter(
    ({ state }) => state === "open",
  );
const decide = (client: Client, id: string, body: object) =>
  client.ask<{ done: string; detail?: string }>("POST", `/api/requests/${id}`, body);

describe("what somebody on the staff may do with lists", () => {
  test("a list of their own, of people whom they lead, is made at once, and they lead it", async () => {
    const key = crypto.randomUUID();
    await carryOut(
      teo,
      listEdit(key, {
        title: "Jugglers' crew",
        name: "jugglers-crew",
        audience: 'guardians of students in "Juggling One"',
        leads: self,
      }),
    );
    expect(await listOf(teo, "jugglers")).toMatchObject({
      kind: "guardians",
      leads: ["Teo Bramwell"],
      rules: {
        writers: "leads and helpers",
        findable: "leads",
        replies: "leads",
        outside: "guardians",
        seen: "no",
      },
      broken: [],
      may: { change: true, add: true },
    });
  });

  test.each<[string, EditWanted, RegExp]>([
    [
      "an audience of people whom they do not lead",
      listEdit(crypto.randomUUID(), {
        title: "All",
        name: "all-parents",
        audience: "guardians of students",
        leads: "SELF",
      }),
      /aren't on any list that you lead/,
    ],
    [
      "a list that somebody else leads",
      listEdit(crypto.randomUUID(), {
        title: "Other",
        name: "other-list",
        audience: "staff",
        leads: "",
      }),
      /Stay among its leads/,
    ],
    ["a recipe", { what: "recipe", recipe: 1, value: null, aliasUntil: "" }, /Only a coordinator/],
    [
      "a house rule",
      {
        what: "house",
        bounds: {},
        invariants: { "outside-unseen": "off" },
        presets: {},
        aliasUntil: "",
      },
      /Only a coordinator/,
    ],
    [
      "a list that they do not lead",
      listEdit("2:class:trapeze two", { title: "Mine now" }),
      /do not lead/,
    ],
  ])("not %s", async (_what, edit, sentence) => {
    const found = JSON.parse(
      JSON.stringify(edit).replace('"SELF"', JSON.stringify(self)),
    ) as EditWanted;
    const { status, body } = await plan(teo, found);
    expect([status, body.detail]).toEqual([403, expect.stringMatching(sentence)]);
  });

  test("who is on no list that they lead is neither named nor counted while an audience is typed", async () => {
    const tried = async (client: Client) =>
      (
        await client.ask<{ people: number; faults: { sentence: string }[] }>(
          "POST",
          "/api/audiences/try",
          { text: 'guardians of students in "Trapeze Two"', each: "", list: "" },
        )
      ).body;
    const [all, known] = [await tried(juno), await tried(teo)];
    expect(all.faults).toEqual([]);
    expect(known.people).toBeLessThan(all.people);
    expect(known.faults).toMatchObject([
      { sentence: expect.stringContaining("aren't on any list that you lead") },
    ]);
  });
});

describe("a house rule that stands in the way", () => {
  const key = crypto.randomUUID();
  const wanted = (): EditWanted =>
    listEdit(
      key,
      {
        title: "Show families",
        name: "show-families",
        audience: "",
        leads: self,
        outside: "guardians",
      },
      FAMILIES,
    );
  const ask = (client: Client, more: object = {}) =>
    client.ask<{ id: string; asked: string[]; detail?: string }>("POST", "/api/requests", {
      list: key,
      rule: "outside",
      wanted: "guardians",
      why: "families answer from home",
      work: { edit: wanted() },
      ...more,
    });

  test("is named, with who can change it", async () => {
    const { status, body } = await plan(teo, wanted());
    expect([status, body.type, body.field]).toEqual([
      422,
      "urn:amigo:fault:edit/house-rule",
      "outside",
    ]);
    expect(body.detail).toBe(
      'Show families: House rule: for other lists, outside addresses: "none". A coordinator can change that in Settings, or allow "guardians only" for this list alone.',
    );
  });

  test("what could never be granted is told to who asks", async () => {
    const { status, body } = await ask(teo, {
      work: {
        edit: listEdit(
          key,
          {
            title: "Show families",
            name: "show-families",
            audience: "",
            leads: self,
            outside: "guardians",
          },
          ["nobody.known@lettr.example"],
        ),
      },
    });
    expect([status, body.detail]).toEqual([
      422,
      expect.stringContaining("no guardian has this one"),
    ]);
  });

  test("is asked about; coordinators get a mail and see what a yes would do; the ten that waited are added by it", async () => {
    expect(await ask(teo)).toMatchObject({ status: 200, body: { asked: ["Juno Abara"] } });
    expect((await ask(teo)).status).toBe(409);
    expect(await house.mailTo(JUNO, "Teo Bramwell asks for Show families")).toContain(
      "families answer from home",
    );
    expect((await ravi.ask<RequestLine[]>("GET", "/api/requests")).body).toEqual([]);
    const [request] = await open(juno);
    expect(request).toMatchObject({
      title: "Show families",
      by: "Teo Bramwell",
      addresses: 3,
      mayDecide: true,
    });
    expect((await open(teo))[0]).toMatchObject({ mine: true, mayDecide: false });
    const id = request?.id ?? "";
    expect((await decide(teo, id, { yes: true })).status).toBe(403);
    expect(
      (await juno.ask<{ sentences: string[]; joins: number }>("GET", `/api/requests/${id}/effect`))
        .body,
    ).toMatchObject({ sentences: ["The list Show families is made as show-families."], joins: 3 });
    expect(
      (await decide(juno, id, { yes: true, until: "2099-07-31", word: "for the show" })).status,
    ).toBe(200);
    expect((await decide(juno, id, { yes: false })).status).toBe(409);
    expect(await house.mailTo(TEO, "Yes: Show families")).toContain("31 Jul 2099");
    const made = await listOf(teo, "show families");
    expect(made).toMatchObject({
      members: 3,
      rules: { outside: "guardians" },
      notes: [{ rule: "outside", sentence: "Allowed by Juno Abara until 31 Jul 2099." }],
    });
    const kept = (
      await teo.ask<{ address: string; lastDay: string; by: string }[]>(
        "GET",
        `/api/lists/${made.id}/kept`,
      )
    ).body;
    expect(kept.map(({ lastDay, by }) => `${lastDay} ${by}`)).toEqual(
      FAMILIES.map(() => "2099-07-31 Teo Bramwell"),
    );
  });

  test("once its day is over the rule holds again, and who came by it goes, as causes of their own", async () => {
    const sql = (text: string) => house.amigo.context.connection.pool.query(text);
    await sql(
      "update fact set value = jsonb_set(value, '{until}', '\"2026-01-31\"') where kind = 'exemption'",
    );
    await sql(
      "update fact set value = jsonb_set(value, '{lastDay}', '\"2026-01-31\"') where kind = 'kept' and value->>'lastDay' = '2099-07-31'",
    );
    await sql("update season set version = version + 1");
    await house.amigo.context.desk.run("reopenRound", undefined);
    const body = await roundOf(juno);
    expect(body.causes.map(({ kind, leaves }) => `${kind} ${leaves}`).sort()).toEqual([
      "expired 0",
      "expired 1",
      "expired 1",
      "expired 1",
    ]);
    await house.step(juno);
    expect(await listOf(teo, "show families")).toMatchObject({
      members: 0,
      rules: { outside: "none" },
    });
  });

  test("is asked about for addresses on a list that is there; no with a word changes nothing", async () => {
    const list = await listOf(teo, "jugglers");
    await carryOut(teo, listEdit(list.key, { outside: "none" }));
    const members = {
      addresses: ["driver@lettr.example"],
      how: "quietly",
      reason: "drives the van",
    };
    expect(
      (await teo.ask("POST", `/api/lists/${list.id}/members`, { ...members, lastDay: "" })).status,
    ).toBe(422);
    const asked = await teo.ask<{ id: string }>("POST", "/api/requests", {
      list: list.key,
      rule: "outside",
      wanted: "any",
      why: "one driver",
      work: { members },
    });
    expect(asked.status).toBe(200);
    expect((await listOf(teo, "jugglers")).requests).toHaveLength(1);
    expect(
      (await decide(juno, asked.body.id, { yes: false, word: "the school pays a driver" })).status,
    ).toBe(200);
    expect(await house.mailTo(TEO, "No: Jugglers")).toContain("the school pays a driver");
    expect((await listOf(teo, "jugglers")).rules.outside).toBe("none");
  });

  test("is not asked about for people beyond those whom the asker knows", async () => {
    const found = crypto.randomUUID();
    const edit = listEdit(found, {
      title: "Everybody",
      name: "everybody-here",
      audience: "students + guardians of students",
      leads: self,
      outside: "any",
    });
    const { status, body } = await teo.ask<{ detail: string }>("POST", "/api/requests", {
      list: found,
      rule: "outside",
      wanted: "any",
      why: "all of them",
      work: { edit },
    });
    expect([status, body.detail]).toEqual([
      403,
      expect.stringContaining("aren't on any list that you lead"),
    ]);
  });

  test("is taken back by who asked, and nobody else", async () => {
    const list = await listOf(teo, "jugglers");
    const { body } = await teo.ask<{ id: string }>("POST", "/api/requests", {
      list: list.key,
      rule: "longest",
      wanted: "25",
      why: "pictures",
      work: {},
    });
    expect((await juno.ask("POST", `/api/requests/${body.id}/withdraw`)).status).toBe(404);
    expect((await teo.ask("POST", `/api/requests/${body.id}/withdraw`)).status).toBe(200);
    expect(await open(juno)).toEqual([]);
  });

  test("another's list can't be asked for", async () => {
    expect(
      (
        await ravi.ask("POST", "/api/requests", {
          list: (await listOf(teo, "jugglers")).key,
          rule: "outside",
          wanted: "any",
          why: "x",
          work: {},
        })
      ).status,
    ).toBe(404);
  });

  test("a name outside a convention that binds is asked for likewise", async () => {
    await changeNaming({ nameLimit: 30, reserved: [], convention: "binds" });
    const found = crypto.randomUUID();
    const edit = listEdit(found, {
      title: "Juggling helpers",
      name: "jh",
      audience: 'coaches of "Juggling One"',
      leads: self,
    });
    expect((await plan(teo, edit)).body).toMatchObject({
      type: "urn:amigo:fault:edit/convention",
      field: "convention",
    });
    const { body } = await teo.ask<{ id: string }>("POST", "/api/requests", {
      list: found,
      rule: "convention",
      wanted: "jh",
      why: "short to type",
      work: { edit },
    });
    expect((await decide(juno, body.id, { yes: true })).status).toBe(200);
    expect((await listOf(teo, "juggling helpers")).address).toBe("jh@lists.copperwheel.example");
    await changeNaming({ nameLimit: 30, reserved: [], convention: "advises" });
  });
});

describe("house rules", () => {
  const bounds = (
    overrides: Record<string, { allowed: string; usual: string } | null>,
  ): EditWanted => ({
    what: "house",
    bounds: overrides,
    invariants: {},
    presets: {},
    aliasUntil: "",
  });

  test("changed show beforehand every list that changes, and are taken back", async () => {
    const edit = bounds({ "guardians outside": { allowed: "none", usual: "none" } });
    const { body } = await plan(juno, edit);
    expect(body.lists.length).toBeGreaterThanOrEqual(10);
    expect(body.lists.every(({ what }) => what === "changed")).toBe(true);
    expect(body.lists.flatMap(({ points }) => points)).toContain("outside addresses: any → none");
    await carryOut(juno, edit);
    expect(await listOf(juno, "wire walk guardians")).toMatchObject({
      rules: { outside: "none" },
      notes: [
        {
          rule: "outside",
          sentence:
            'House rule: for lists of guardians, outside addresses: "none". "any" was chosen.',
        },
      ],
    });
    const { body: rounds } = await juno.ask<{ number: number }[]>("GET", "/api/rounds");
    expect(
      (await juno.ask("POST", `/api/rounds/${rounds[0]?.number ?? 0}/back`, { passed: {} })).status,
    ).toBe(200);
    expect((await listOf(juno, "wire walk guardians")).rules.outside).toBe("any");
  });

  test("that would let rules contradict each other show which lists break", async () => {
    await carryOut(juno, {
      what: "house",
      bounds: {},
      invariants: {},
      presets: { homework: { name: "Homework", what: "", writers: "members", seen: "yes" } },
      aliasUntil: "",
    });
    const { body } = await plan(juno, listEdit("2:class:wire walk", { preset: "homework" }));
    expect(body).toMatchObject({
      type: "urn:amigo:fault:edit/invariant",
      detail: expect.stringContaining("members must not see each other"),
    });
    await carryOut(juno, listEdit("1:class:wire walk", { preset: "homework" }));
    expect((await listOf(juno, "wire walk students")).preset).toEqual({
      id: "homework",
      name: "Homework",
    });
    expect(
      (
        await plan(juno, {
          what: "house",
          bounds: {},
          invariants: {},
          presets: { homework: null },
          aliasUntil: "",
        })
      ).body.detail,
    ).toContain("uses these posting rules");
    const broken = await plan(juno, {
      what: "house",
      bounds: {},
      invariants: {},
      presets: { homework: { name: "Homework", what: "", replies: "list", writers: "leads" } },
      aliasUntil: "",
    });
    expect(broken.body.lists.find(({ title }) => title === "Wire Walk, students")?.breaks).toEqual([
      expect.stringContaining("replies to the list would reach nobody"),
    ]);
  });

  test.each<[string, Record<string, { allowed: string; usual: string }>, RegExp]>([
    [
      "that allow nothing that is usual",
      { "staff seen": { allowed: "no", usual: "yes" } },
      /has to be one of the/,
    ],
    [
      "with a value that there is not",
      { "staff seen": { allowed: "perhaps", usual: "no" } },
      /can't be chosen/,
    ],
    [
      "with a number that is none",
      { "staff longest": { allowed: "many", usual: "1" } },
      /whole number/,
    ],
  ])("%s are refused", async (_what, given, sentence) => {
    expect((await plan(juno, bounds(given))).body.detail).toMatch(sentence);
  });

  test("a site coordinator decides on requests for lists of her site", async () => {
    const odile = await house.signIn(ODILE);
    const list = await listOf(odile, "trapeze two guardians");
    const { body } = await ravi.ask<{ id: string }>("POST", "/api/requests", {
      list: list.key,
      rule: "longest",
      wanted: "25",
      why: "pictures",
      work: {},
    });
    expect((await open(odile)).map(({ id }) => id)).toEqual([body.id]);
    expect((await decide(odile, body.id, { yes: true })).status).toBe(200);
    expect((await listOf(odile, "trapeze two guardians")).rules.longest).toBe("25");
  });

  test("every list tells when nobody who leads it can sign in", async () => {
    const { body } = await juno.ask<House>("GET", "/api/house");
    expect(body.recipes.length).toBeGreaterThan(0);
    await carryOut(juno, listEdit("2:class:acro pairs", { leads: "" }));
    expect((await listOf(juno, "acro pairs guardians")).broken).toEqual([
      expect.stringContaining("No lead of this list can sign in"),
    ]);
  });
});
