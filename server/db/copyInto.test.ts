import fc from "fast-check";
import pg from "pg";
import { drizzle } from "drizzle-orm/node-postgres";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { makeTestDatabase } from "../testing/testDatabase";
import type { Database } from "./connect";
import { copyInto, type CopyValue } from "./copyInto";

let database: Awaited<ReturnType<typeof makeTestDatabase>>;
let pool: pg.Pool;
let db: Database;

beforeAll(async () => {
  database = await makeTestDatabase();
  pool = new pg.Pool({ connectionString: database.url });
  db = drizzle(pool);
  await db.execute(sql`create table copied (at int, word text, words text[], yes boolean)`);
});
afterAll(async () => {
  await pool.end();
  await database.drop();
});

/** Signs that mean something to COPY or to an array beside any others. */
const text = fc.oneof(
  fc.string({ unit: "grapheme" }),
  fc.constantFrom(
    "",
    "\\N",
    "\\",
    "\\.",
    "a\tb",
    "a\nb",
    "a\r\nb",
    '"',
    "{}",
    "NULL",
    "a,b",
    "'; drop table copied; --",
    "Łoziński 🎪",
  ),
);
const clean = (value: string): string => value.replace(/\u0000/g, "");

describe("copying rows in", () => {
  test("brings every text, list and null through as it is", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(text, fc.array(text, { maxLength: 4 }), fc.option(fc.boolean())), {
          maxLength: 20,
        }),
        async (rows) => {
          await db.transaction(async (tx) => {
            await tx.execute(sql`truncate copied`);
            await copyInto(
              tx,
              "copied (at, word, words, yes)",
              rows.map(([word, words, yes], at): CopyValue[] => [at, word, words, yes]),
            );
            const { rows: back } = await tx.execute<{
              word: string;
              words: string[];
              yes: boolean | null;
            }>(sql`select word, words, yes from copied order by at`);
            expect(back).toEqual(
              rows.map(([word, words, yes]) => ({
                word: clean(word),
                words: words.map(clean),
                yes,
              })),
            );
          });
        },
      ),
      { numRuns: 60 },
    );
  });

  test("is part of its transaction: what fails later leaves nothing", async () => {
    await db.execute(sql`truncate copied`);
    await expect(
      db.transaction(async (tx) => {
        await copyInto(tx, "copied (at, word)", [[1, "one"]]);
        throw new Error("the disk is full");
      }),
    ).rejects.toThrow("the disk is full");
    expect((await db.execute(sql`select 1 from copied`)).rows).toEqual([]);
  });

  test("of a wrong kind fails, and the connection is good again afterwards", async () => {
    await expect(
      db.transaction((tx) => copyInto(tx, "copied (at)", [["no number"]])),
    ).rejects.toThrow(/integer/);
    await db.transaction((tx) =>
      copyInto(
        tx,
        "copied (at, word)",
        Array.from({ length: 20_000 }, (_, at): CopyValue[] => [at, `word ${at}`]),
      ),
    );
    expect(
      (await db.execute<{ count: string }>(sql`select count(*) from copied`)).rows[0]?.count,
    ).toBe("20000");
  });
});
