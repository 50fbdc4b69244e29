import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";
import { knownMigrations, MIGRATIONS } from "./knownMigrations";
import { migrate } from "./migrate";

/** From this one on, an update only adds to the schema; the numbers before were made while there was one version alone. */
const FROM = 48;

/** What takes something away, or changes what is there, so that the version before could not go on. */
const CONTRACTS =
  /\bDROP (TABLE|COLUMN|TYPE|VIEW)\b|\bRENAME (TO|COLUMN)\b|\bSET DATA TYPE\b|\bALTER COLUMN \S+ (SET NOT NULL|TYPE|DROP DEFAULT)\b|\bADD COLUMN (?:(?!DEFAULT)[^;])*\bNOT NULL\b(?![^;]*DEFAULT)/i;
/** By which line an update says that the version before has no more use for what it takes away. */
const SAYS_SO = /^-- Not used since \S+/m;

describe("updates of the schema", () => {
  test("add first, and take away only what the version before has no use for", () => {
    const files = readdirSync(MIGRATIONS).filter((name) => name.endsWith(".sql"));
    const wrong = files
      .filter((name) => Number(name.slice(0, 4)) >= FROM)
      .filter((name) => {
        const text = readFileSync(join(MIGRATIONS, name), "utf8");
        return CONTRACTS.test(text) && !SAYS_SO.test(text);
      });
    expect(wrong).toEqual([]);
  });

  test.each([
    ['ALTER TABLE "list" DROP COLUMN "title";', true],
    ['ALTER TABLE "list" RENAME COLUMN "title" TO "name";', true],
    ['ALTER TABLE "list" ALTER COLUMN "title" SET NOT NULL;', true],
    ['ALTER TABLE "list" ADD COLUMN "mood" text NOT NULL;', true],
    ['ALTER TABLE "list" ADD COLUMN "mood" text DEFAULT \'\' NOT NULL;', false],
    ['ALTER TABLE "list" ADD COLUMN "mood" text;', false],
    ['CREATE TABLE "mood" ("id" integer NOT NULL);', false],
  ])("are known as taking away or adding: %s", (statement, takesAway) => {
    expect(CONTRACTS.test(statement)).toBe(takesAway);
  });
});

describe("two versions side by side", () => {
  let house: TestHouse;
  let juno: Client;
  let newer: pg.Client;
  beforeAll(async () => {
    house = await startTestHouse();
    juno = await house.signIn(JUNO);
    newer = new pg.Client({ connectionString: house.amigo.context.settings.databaseUrl });
    await newer.connect();
  });
  afterAll(async () => {
    await newer.end();
    await house.close();
  });

  test("the older one's processes go on while the newer one's update the schema, and can't be started again afterwards", async () => {
    await house.read(juno, "autumn-roster.xlsx");
    await house.step(juno);
    const listId =
      (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
    let isOver = false;
    const failed: string[] = [];
    const work = (async () => {
      for (let turn = 0; !isOver; turn++) {
        const post = await juno.ask<object>("POST", "/api/posts", {
          ...{ lists: [listId], subject: `Update ${turn}`, text: "Dear families." },
          key: crypto.randomUUID(),
        });
        const board = await juno.ask<object>("GET", "/api/board");
        for (const { status, body } of [post, board])
          if (status !== 200 && !JSON.stringify(body).includes("limit is 20"))
            failed.push(JSON.stringify(body));
      }
    })();
    // As a newer Amigo does it, in one transaction: it adds.
    await newer.query("begin");
    for (const statement of [
      "create table mood (id serial primary key, list_id uuid references list (id), words text not null default '')",
      "alter table list add column mood text not null default 'calm'",
      "alter table post add column mood text",
      "alter table delivery add column mood integer",
      "alter table membership add column mood text not null default ''",
      "create index delivery_mood on delivery (mood)",
    ])
      await newer.query(statement);
    await newer.query(
      "insert into drizzle.__drizzle_migrations (hash, created_at) values ('newer', $1)",
      [knownMigrations().last + 1],
    );
    await newer.query("commit");
    // The older one goes on with everything: mail, an import, a round.
    await house.read(juno, "autumn-roster-week-2.xlsx", {
      id: (await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id ?? "",
    });
    await house.step(juno);
    isOver = true;
    await work;
    expect(failed).toEqual([]);
    await until(
      "an empty queue",
      async () =>
        (
          await newer.query(
            "select 1 from delivery where state in ('queued', 'sending', 'deferred') limit 1",
          )
        ).rowCount,
      (left) => left === 0,
    );
    await expect(migrate(house.amigo.context.settings.databaseDirectUrl)).rejects.toThrow(
      "A newer Amigo has updated this database",
    );
  });
});
