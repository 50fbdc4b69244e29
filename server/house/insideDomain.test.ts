import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { House } from "@amigo/contract/house";
import { insideDomains } from "../db/insideDomains";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

const OLD = "copperwheel.example";
const NEW = "copperwheel-school.example";

let house: TestHouse;
let juno: Client;
beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  await house.amigo.context.db.execute(
    sql`update list set rules = rules || '{"writers": "inside"}' where title = 'Wire Walk, guardians'`,
  );
});
afterAll(() => house.close());

const shown = async (): Promise<House> => (await juno.ask<House>("GET", "/api/house")).body;
const move = async (insideDomain: string, insideGraceDays: number): Promise<string[]> => {
  const { name, kind, listDomain, timeZone, country, language, studentAddress, versions } =
    await shown();
  const { status, body } = await juno.ask<{ follows: string[] }>("PUT", "/api/house/basics", {
    ...{ house: name, kind, insideDomain, listDomain, timeZone, country, language, studentAddress },
    ...{ codes: {}, version: versions.basics, insideGraceDays },
  });
  expect(status).toBe(200);
  return body.follows;
};

/** What each list does with mail of a stranger, and what the stranger can see of the list. */
const tried = async (domain: string) => {
  const { body } = await juno.ask<{
    lists: { id: string; outcome: string; sight: unknown }[];
  }>("POST", "/api/lists/try", { address: `somebody.new@${domain}`, proof: "dkim" });
  return body.lists.map(({ id, outcome, sight }) => ({ id, outcome, sight }));
};

describe("an inside domain that is changed", () => {
  test("leaves addresses of before inside until a day, and counts those of the new one at once", async () => {
    const [inside, outside] = [await tried(OLD), await tried("oakmail.example")];
    expect(inside).not.toEqual(outside);
    expect(await tried(NEW)).toEqual(outside);
    expect((await move(NEW, 30))[0]).toMatch(
      /Addresses in copperwheel-school\.example count as inside from now on, and those in copperwheel\.example until /,
    );
    expect(await tried(NEW)).toEqual(inside);
    expect(await tried(OLD)).toEqual(inside);
    expect((await shown()).formerDomains).toEqual([
      { use: "inside", domain: OLD, lastDay: expect.stringMatching(/^\d{4}-\d\d-\d\d$/) },
    ]);
  });

  test("counts them as outside after the last day", async () => {
    const outside = await tried("oakmail.example");
    await house.amigo.context.db.execute(
      sql`update former_inside_domain set last_day = current_date - 2`,
    );
    expect(await tried(OLD)).toEqual(outside);
    expect(await insideDomains(house.amigo.context.db)).toEqual([NEW]);
    expect((await shown()).formerDomains).toEqual([]);
  });

  test("ends at once where that is wanted", async () => {
    expect((await move(OLD, 0))[0]).toContain(`those in ${NEW} as outside`);
    expect(await insideDomains(house.amigo.context.db)).toEqual([OLD]);
  });
});
