import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Job } from "@amigo/contract/jobs";
import { JOB_NAMES, nextRun } from "@amigo/core/jobs/recurring";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";
import { runJob } from "./runJob";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const jobs = async (): Promise<Job[]> => (await juno.ask<Job[]>("GET", "/api/jobs")).body;
const job = async (name: string) => (await jobs()).find((one) => one.name === name);
const run = (name: string, client = juno) => client.ask("POST", `/api/jobs/${name}/run`);

describe("work that comes back by itself", () => {
  test("is listed with what it does and when it is due next", async () => {
    const found = await jobs();
    // Backups are made only where the settings name a folder.
    expect(found.map(({ name }) => name)).toEqual(JOB_NAMES.filter((name) => name !== "backups"));
    for (const { what, next } of found) {
      expect(what).toMatch(/^[A-Z].{10,}/);
      expect(new Date(next ?? 0).getTime()).toBeGreaterThan(Date.now());
    }
    expect(nextRun("new-day", new Date("2026-11-30T10:01:00Z"))).toEqual(
      new Date("2026-11-30T11:01:00Z"),
    );
  });

  test("is done at once when a coordinator says so, once, and what came of it is kept", async () => {
    const before = new Date().toISOString();
    expect((await run("new-day")).status).toBe(200);
    const done = await until(
      "the work",
      () => job("new-day"),
      (found) => found?.isAsked === false && (found.last ?? "") > before,
    );
    expect(done).toMatchObject({ failure: "", isAsked: false });
    const { rows } = await house.amigo.context.db.execute(
      sql`select sentence from journal where action = 'run job'`,
    );
    expect(rows).toEqual([{ sentence: expect.stringMatching(/^Juno Abara had it done now: /) }]);
    expect((await run("no-such-work")).status).toBe(404);
    expect((await run("new-day", house.client())).status).toBe(401);
  });

  test("that fails says why, without what stands in its parameters, until it succeeds again", async () => {
    const { context } = house.amigo;
    const fail = () =>
      context.db.execute(sql`select ${"ida@oakmail.example"}::int`).then(() => undefined);
    await expect(runJob(context, "watchers", fail)).rejects.toThrow();
    const failed = await job("watchers");
    expect(failed?.failure).toMatch(/^a query failed: select/);
    expect(failed?.failure).not.toContain("oakmail");
    await runJob(context, "watchers", () => Promise.resolve());
    expect((await job("watchers"))?.failure).toBe("");
  });
});
