import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { Queries } from "../db/connect";
import { loadCurrentSeason } from "../db/houseQueries";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { forgetStanding, standingIndex } from "./standing";

let house: TestHouse;
let juno: Client;
let season = 0;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  season = (await loadCurrentSeason(house.amigo.context.db))?.id ?? 0;
});
afterAll(() => house.close());
beforeEach(() => forgetStanding());

/** A database from which the facts don't come: it says when they are asked for, and fails when it is told to. */
function breaksAtFacts(db: Queries) {
  let begin = (): void => undefined;
  let fail = (): void => undefined;
  const loading = new Promise<void>((resolve) => {
    begin = resolve;
  });
  const facts = new Promise<never>((_, reject) => {
    fail = () => reject(new Error("the connection is gone"));
  });
  const broken = new Proxy(db, {
    get(target, name) {
      if (name !== "execute") return Reflect.get(target, name) as unknown;
      begin();
      return () => facts;
    },
  });
  return { broken, loading, fail };
}

describe("everybody of a season", () => {
  test("is loaded once, however many ask for it at once, and again once something has changed", async () => {
    const { db } = house.amigo.context;
    const first = await Promise.all(Array.from({ length: 8 }, () => standingIndex(db, season)));
    expect(new Set(first).size).toBe(1);
    expect(first[0]?.people.size).toBeGreaterThan(400);
    expect(await standingIndex(db, season)).toBe(first[0]);
    await db.execute(sql`update season set version = version + 1 where id = ${season}`);
    expect(await standingIndex(db, season)).not.toBe(first[0]);
  });

  test("is loaded by each of those who waited, where the one who was loading fails", async () => {
    const { db } = house.amigo.context;
    const { broken, loading, fail } = breaksAtFacts(db);
    const first = standingIndex(broken, season).then(
      () => "loaded",
      (failure: Error) => failure.message,
    );
    await loading;
    const others = [standingIndex(db, season), standingIndex(db, season)];
    // Both have asked for the version by then, and wait.
    await db.execute(sql`select 1`);
    fail();
    expect(await first).toBe("the connection is gone");
    for (const index of await Promise.all(others)) expect(index.people.size).toBeGreaterThan(400);
    expect((await standingIndex(db, season)).people.size).toBeGreaterThan(400);
  });
});

test("the last of 6,000 lists is found by its name, wherever lists are looked for", async () => {
  await house.amigo.context.db.execute(
    sql`insert into list select (jsonb_populate_record(list, jsonb_build_object('id', gen_random_uuid(), 'name', 'many-' || n, 'title', 'Zebra ' || n, 'key', 'many ' || n))).* from list, generate_series(1, 6000) n where list.id = (select id from list where closed_at is null order by name limit 1)`,
  );
  const found = await Promise.all(
    ["/api/find?q=zebra 5987", "/api/lists?q=zebra 5987", "/api/targets?q=zebra 5987"].map((path) =>
      juno.ask<{ title?: string; name: string }[]>("GET", path),
    ),
  );
  expect(found.map(({ body }) => body.map(({ title, name }) => title ?? name))).toEqual([
    ["Zebra 5987"],
    ["Zebra 5987"],
    ["Zebra 5987"],
  ]);
});
