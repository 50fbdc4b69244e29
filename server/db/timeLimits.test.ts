import pg from "pg";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { lockRounds } from "../change/roundQueries";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { migrate } from "./migrate";

let house: TestHouse;
let juno: Client;
let outside: pg.Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  outside = new pg.Client({ connectionString: house.amigo.context.settings.databaseUrl });
  await outside.connect();
});
afterAll(async () => {
  await outside.end();
  await house.close();
});

/** What holds for connections of the role from now on. */
async function limits(): Promise<Record<string, string>> {
  const client = new pg.Client({ connectionString: house.amigo.context.settings.databaseUrl });
  await client.connect();
  try {
    const { rows } = await client.query<{ name: string; setting: string }>(
      "select name, current_setting(name) as setting from pg_settings where name in ('statement_timeout', 'lock_timeout', 'idle_in_transaction_session_timeout')",
    );
    return Object.fromEntries(rows.map(({ name, setting }) => [name, setting]));
  } finally {
    await client.end();
  }
}

async function setLimit(limit: string, value: string): Promise<void> {
  await outside.query(
    `do $$ begin execute format('alter role current_user in database %I set ${limit} = ''${value}''', current_database()); end $$`,
  );
}

describe("what takes too long in the database is ended", () => {
  test("every connection has limits, and one that the operator has set stays", async () => {
    expect(await limits()).toEqual({
      statement_timeout: "2min",
      lock_timeout: "10s",
      idle_in_transaction_session_timeout: "5min",
    });
    await setLimit("lock_timeout", "300ms");
    await migrate(house.amigo.context.settings.databaseDirectUrl);
    expect((await limits())["lock_timeout"]).toBe("300ms");
  });

  test("a change of much may take longer, and leaves its connection as it was", async () => {
    const { db } = house.amigo.context;
    const shown = await db.transaction(async (tx) => {
      await lockRounds(tx);
      return (await tx.execute("show statement_timeout")).rows;
    });
    expect(shown).toEqual([{ statement_timeout: "30min" }]);
    expect((await db.execute("show statement_timeout")).rows).toEqual([
      { statement_timeout: "2min" },
    ]);
  });

  test("a lock held from outside stops only what needs it, and says so", async () => {
    const { pool } = house.amigo.context.connection;
    // Those that are open still have the limit of before.
    const open = await Promise.all(Array.from({ length: pool.options.max }, () => pool.connect()));
    for (const one of open) {
      await one.query("set lock_timeout = '300ms'");
      one.release();
    }
    await outside.query("begin");
    await outside.query("lock table list in access exclusive mode");
    const waiting = Array.from({ length: 3 * pool.options.max }, () =>
      juno.ask<{ type: string; detail: string }>("GET", "/api/board"),
    );
    const { status } = await (await house.signIn(JUNO)).ask("GET", "/api/me");
    expect(status).toBe(200);
    for (const answer of await Promise.all(waiting))
      expect(answer).toMatchObject({
        status: 503,
        body: {
          type: "urn:amigo:fault:busy",
          detail: expect.stringContaining("busy with another change") as string,
        },
      });
    await outside.query("rollback");
    expect((await juno.ask("GET", "/api/board")).status).toBe(200);
  });
});
