import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Fact, Facts } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import { carryOut } from "../change/carryOut";
import type { Queries } from "../db/connect";
import { loadCurrentSeason } from "../db/houseQueries";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { loadFacts } from "./queries";
import { forgetStanding, standingFacts, standingIndex } from "./standing";

let house: TestHouse;
let juno: Client;
let season = 0;
let source = "";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  source = (await house.read(juno, "autumn-roster.xlsx")).body.source;
  await house.step(juno);
  season = (await loadCurrentSeason(house.amigo.context.db))?.id ?? 0;
  forgetStanding();
});
afterAll(() => house.close());

/** The facts of the season as they are at hand, beside all of them fetched anew. */
async function bothWays(db: Queries) {
  const inOrder = (facts: Facts) => [...facts].sort(([one], [other]) => (one < other ? -1 : 1));
  const [atHand, anew] = [await standingFacts(db, season), await loadFacts(db, season)];
  return { atHand: inOrder(atHand), anew: inOrder(anew) };
}

/** Changes the house as a round of its own, in a transaction. */
async function change(tx: Queries, isKept: (fact: Fact) => boolean): Promise<void> {
  const stand = await standingFacts(tx, season);
  await carryOut(
    tx,
    { id: null, name: "a test" },
    { round: 1, seasonId: season, words: () => "a test" },
    stand,
    new Map([...stand].filter(([, fact]) => isKept(fact))),
  );
}

describe("facts at hand", () => {
  const KEY = "2:class:wire walk";

  async function keep(side: "on" | "off"): Promise<void> {
    const { rows } = await house.amigo.context.db.execute<{ id: string }>(
      sql`select id from list where key = ${KEY} and season_id = ${season}`,
    );
    const wanted = { address: "guest@copperwheel.example", side, reason: "A guest", lastDay: "" };
    const answer = await juno.ask("POST", `/api/lists/${rows[0]?.id}/kept`, wanted);
    expect(answer).toMatchObject({ status: 200 });
  }

  async function title(value: string): Promise<void> {
    const edit = { what: "lists", aliasUntil: "", lists: [{ key: KEY, points: { title: value } }] };
    const { body } = await juno.ask<{ version: number }>("POST", "/api/edits/plan", { edit });
    const wanted = { edit, version: body.version, passed: {} };
    expect((await juno.ask("POST", "/api/edits", wanted)).status).toBe(200);
  }

  async function undoLast(): Promise<void> {
    const { rows } = await house.amigo.context.db.execute<{ number: number }>(
      sql`select max(number) as number from round where state = 'done'`,
    );
    const path = `/api/rounds/${rows[0]?.number}/back`;
    expect((await juno.ask("POST", path, { passed: {} })).status).toBe(200);
  }

  test.each<[string, () => Promise<unknown>]>([
    ["an address is always on a list", () => keep("on")],
    ["a list has another title", () => title("Wire walkers")],
    ["another week is read", () => house.read(juno, "autumn-roster-week-2.xlsx", { id: source })],
    ["that week is brought in step", () => house.step(juno)],
    ["an address is never on a list", () => keep("off")],
    ["a list has a third title", () => title("Wire")],
    ["the last round is undone", undoLast],
    [
      "something else than facts counts otherwise",
      () => house.amigo.context.db.execute(sql`update season set version = version + 1`),
    ],
  ])("are as those in the database when %s", async (_what, act) => {
    const { db } = house.amigo.context;
    const before = await standingFacts(db, season);
    await act();
    const { atHand, anew } = await bothWays(db);
    expect(atHand).toEqual(anew);
    expect([...before]).not.toEqual([]);
    const [index, whole] = [await standingIndex(db, season), indexFacts(new Map(anew))];
    expect([...index.people].sort()).toEqual([...whole.people].sort());
    expect([...index.kept, ...index.lists].sort()).toEqual([...whole.kept, ...whole.lists].sort());
  });

  test("are those of a transaction within it, and go with it where it is undone", async () => {
    const { db } = house.amigo.context;
    const before = await bothWays(db);
    const undone = db.transaction(async (tx) => {
      await change(tx, ({ kind }) => kind !== "level");
      const within = await bothWays(tx);
      expect(within.atHand).toEqual(within.anew);
      expect(within.atHand.length).toBeLessThan(before.atHand.length);
      throw new Error("undone");
    });
    await expect(undone).rejects.toThrow("undone");
    const then = await bothWays(db);
    expect([then.atHand, then.anew]).toEqual([before.atHand, before.atHand]);
  });

  test("aren't fetched again by who has stored them, once the transaction is through", async () => {
    const { db } = house.amigo.context;
    await db.transaction((tx) => change(tx, ({ kind }) => kind !== "level"));
    const asked: PropertyKey[] = [];
    const watched = new Proxy(db, {
      get(target, name) {
        asked.push(name);
        return Reflect.get(target, name) as unknown;
      },
    });
    const facts = await standingFacts(watched, season);
    expect(asked).not.toContain("execute");
    expect([...facts.values()].some(({ kind }) => kind === "level")).toBe(false);
    const { atHand, anew } = await bothWays(db);
    expect(atHand).toEqual(anew);
  });

  test("of a database that has gone back to an earlier state are fetched anew, and stay at hand", async () => {
    const { db } = house.amigo.context;
    await standingFacts(db, season);
    await db.execute(sql`delete from fact_change where season_id = ${season}`);
    await db.execute(sql`update season set version = version - 2 where id = ${season}`);
    await db.execute(sql`delete from fact where kind = 'site' and season_id = ${season}`);
    const { atHand, anew } = await bothWays(db);
    expect(atHand).toEqual(anew);
    expect(await standingFacts(db, season)).toBe(await standingFacts(db, season));
  });
});
