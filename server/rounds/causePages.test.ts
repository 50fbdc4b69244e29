import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { CauseLine, RoundChoices, RoundOutline } from "@amigo/contract/causes";
import type { TakeBack } from "@amigo/contract/rounds";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { roundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
let source: string;
let number: number;

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
const CLASSES = ["Silks", "Rope", "Hoops"];
const child = (at: number, className = CLASSES[at % 3] ?? ""): string =>
  `S-${100 + at},Fam${at},Kid${at},Mill Loft,${className},Ana Fam${at},ana.${at}@oakmail.example`;
const rows = (from: number, to: number) =>
  Array.from({ length: to - from }, (_, at) => child(from + at));

interface Page {
  causes: CauseLine[];
  next: number | null;
}
const page = async (query: string): Promise<Page> =>
  (await juno.ask<Page>("GET", `/api/rounds/${number}/causes?${query}`)).body;
const outline = async (query = ""): Promise<RoundOutline> =>
  (await juno.ask<RoundOutline>("GET", `/api/rounds/${number}/outline?${query}`)).body;
const decide = async (causes: unknown, decision: string): Promise<number> =>
  (await juno.ask("POST", "/api/rounds/open/decisions", { round: number, causes, decision }))
    .status;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  ({ source } = await house.readLines(juno, [HEAD, ...rows(0, 60)], { name: "Roster" }));
  ({ number } = await roundOf(juno));
});
afterAll(() => house.close());

describe("the causes of a round", () => {
  test("come a page at a time, each once and in their order", async () => {
    const { causes: count, totals } = await roundOf(juno).then((round) => ({
      ...round,
      causes: round.causes.length,
    }));
    expect(count).toBe(totals.accepted);
    const seen: number[] = [];
    let after = "";
    for (;;) {
      const { causes, next } = await page(`limit=7${after}`);
      seen.push(...causes.map(({ position }) => position));
      if (next === null) break;
      expect(causes).toHaveLength(7);
      after = `&after=${next}`;
    }
    expect(seen).toEqual(Array.from({ length: count }, (_, at) => at));
  });

  test.each(["limit=0", "limit=501", "after=-1", "after=x"])(
    "refuse a page of %s",
    async (query) => {
      expect((await juno.ask("GET", `/api/rounds/${number}/causes?${query}`)).status).toBe(400);
    },
  );

  test("of a round that isn't there are not found", async () => {
    for (const part of ["causes", "outline", "choices"])
      expect((await juno.ask("GET", `/api/rounds/999/${part}`)).status).toBe(404);
  });

  test("are counted by the outline as the pages hold them, whatever is chosen", async () => {
    const { body: choices } = await juno.ask<RoundChoices>("GET", `/api/rounds/${number}/choices`);
    expect(choices.groups.sort()).toEqual([...CLASSES].sort());
    expect(choices.sources).toEqual(["Roster"]);
    const of = (name: string, values: readonly string[]) =>
      values.map((value) => `${name}=${encodeURIComponent(value)}`);
    const chosen = [
      "",
      ...of("list", Object.keys(choices.lists)),
      ...of("group", [...choices.groups, "", "Nobody's class"]),
      ...of("kind", choices.kinds),
      ...of("source", [...choices.sources, "Roster'; drop table cause"]),
      "group=Silks&kind=joined",
    ];
    for (const query of chosen) {
      const { causes } = await page(`limit=500&${query}`);
      const { shown, sections } = await outline(query);
      expect([query, shown]).toEqual([query, causes.length]);
      for (const { key, count, classes } of sections) {
        expect((await page(`limit=500&section=${key}&${query}`)).causes).toHaveLength(count);
        for (const item of classes ?? []) {
          const inClass = await page(
            `limit=500&section=${key}&${query.replace(/group=\w*&?/, "")}&group=${item.name}`,
          );
          expect(inClass.causes).toHaveLength(item.count);
          expect(inClass.causes.reduce((sum, { joins }) => sum + joins, 0)).toBe(item.joins);
        }
      }
    }
    const [list = ""] = Object.keys(choices.lists);
    const { causes } = await page(`limit=500&list=${encodeURIComponent(list)}`);
    expect(causes.length).toBeGreaterThan(5);
    expect(new Set(causes.map(({ group }) => group)).size).toBe(1);
  });
});

describe("a decision", () => {
  test("on a class holds what stands in it and nothing else, and the held of a choice are accepted again", async () => {
    expect(await decide({ section: "classes", group: "Rope" }, "held")).toBe(200);
    const held = (await roundOf(juno)).causes.filter(({ decision }) => decision === "held");
    expect(held.length).toBeGreaterThanOrEqual(20);
    expect(new Set(held.map(({ group }) => group))).toEqual(new Set(["Rope"]));
    expect((await outline()).held).toBe(held.length);
    expect((await roundOf(juno)).totals.held).toBe(held.length);
    expect(await decide({ group: "Hoops", decision: "held" }, "accepted")).toBe(200);
    expect((await outline()).held).toBe(held.length);
    expect(await decide({ decision: "held" }, "accepted")).toBe(200);
    expect((await outline()).held).toBe(0);
  });

  test("by keys means the same causes after another import has moved them", async () => {
    const { causes } = await roundOf(juno);
    const last = causes.find(({ title }) => title === "Kid59 Fam59");
    // Ten children fewer stand before it, and so its position is another.
    await house.readLines(juno, [HEAD, ...rows(10, 60)], { id: source });
    expect(await decide([last?.key], "held")).toBe(200);
    const held = (await roundOf(juno)).causes.filter(({ decision }) => decision === "held");
    expect(held.map(({ title }) => title)).toEqual([last?.title]);
    expect(held[0]?.position).not.toBe(last?.position);
  });

  test("on changes that an import has taken out of the round is refused, and nothing is held", async () => {
    await decide({ decision: "held" }, "accepted");
    const gone = (await roundOf(juno)).causes.find(({ title }) => title === "Kid59 Fam59");
    await house.readLines(juno, [HEAD, ...rows(10, 59)], { id: source });
    expect(await decide([gone?.key], "held")).toBe(409);
    expect((await outline()).held).toBe(0);
  });

  test.each([[[]], [[7]], ["all"], [null], [{ decision: "dropped" }]])(
    "on %j is refused",
    async (causes) => {
      expect(await decide(causes, "held")).toBe(400);
    },
  );
});

test("of a class whose name is as long as a cell, or written like a query, are shown and decided, too", async () => {
  const names = ["x".repeat(900), "Sopran: hoch & tief", "O'Hara' or 1=1 --", "Tenor%20"];
  await house.readLines(
    juno,
    [
      HEAD,
      ...names.flatMap((name, at) =>
        Array.from({ length: 9 }, (_, place) => child(300 + at * 10 + place, name)),
      ),
    ],
    { id: source },
  );
  for (const name of names) {
    const group = `group=${encodeURIComponent(name)}`;
    const { causes } = await page(`limit=500&${group}`);
    expect(causes.length).toBeGreaterThanOrEqual(9);
    expect(await decide({ group: name }, "held")).toBe(200);
    expect((await outline(group)).held).toBe(causes.length);
    expect(
      await decide(
        causes.map(({ key }) => key),
        "accepted",
      ),
    ).toBe(200);
    expect((await outline(group)).held).toBe(0);
  }
});

test("taking a large round back shows the first of its changes and counts all of them", async () => {
  await house.readLines(juno, [HEAD, ...rows(0, 240)], { id: source });
  const { causes } = await roundOf(juno);
  await house.step(juno);
  const { body } = await juno.ask<TakeBack>("GET", `/api/rounds/${number}/back`);
  expect(body.causes).toHaveLength(200);
  expect(body.totals.accepted).toBe(causes.length);
  expect(causes.length).toBeGreaterThan(240);
});
