import fc from "fast-check";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { CausePage } from "@amigo/contract/causes";
import type { ReadingPage } from "@amigo/contract/readings";
import { copyInto } from "../db/copyInto";
import { listFaults, listReadRows } from "../facts/rowQueries";
import { openRoundOf, roundOf } from "../testing/roundOf";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { removeOverTime } from "../retention/removeOverTime";
import { shareRows } from "./shareRows";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const run = async (query: ReturnType<typeof sql>): Promise<Record<string, unknown>[]> =>
  (await house.amigo.context.db.execute(query)).rows;
const share = (): Promise<number> => shareRows(house.amigo.context);

const HEAD = "Student no.,Surname,First name,Class,Parent 1,Email 1";
const student = (at: number, more: { place?: string; address?: string } = {}): string =>
  `CW-${1000 + at},Quist${at},Bram,${more.place ?? "Wire Walk"},Ana Quist${at},${more.address ?? `ana${at}@lettr.example`}`;

/** What is seen of an import: its page and its rows. */
async function seen(id: string): Promise<[ReadingPage, unknown]> {
  const { status, body } = await juno.ask<ReadingPage>("GET", `/api/readings/${id}`);
  expect(status, JSON.stringify(body)).toBe(200);
  const { body: rows } = await juno.ask("GET", `/api/readings/${id}/rows?sheet=0&from=1`);
  return [body, rows];
}

describe("old imports", () => {
  const readings: string[] = [];
  let source = "";

  test("look the same when what they share with the next one is stored once", async () => {
    const first = Array.from({ length: 30 }, (_, at) =>
      student(at, at === 7 ? { address: "ana7@lettr,example" } : {}),
    );
    const second = ["A line above the titles", HEAD, ...first.filter((_, at) => at !== 3)];
    const third = [HEAD, student(99), ...first.map((row) => row.replace("ana9@", "new9@"))];
    // Rows in another order, one of them twice, and a fault that wasn't there before.
    const fourth = [HEAD, ...[...first].reverse(), first[0] ?? "", student(98, { address: "at" })];
    const fifth = [HEAD, ...first];
    for (const lines of [[HEAD, ...first], second, third, fourth, fifth]) {
      const read = await house.readLines(
        juno,
        lines,
        source === "" ? { name: "Office" } : { id: source },
      );
      source = read.source;
      if ((await openRoundOf(juno)) !== null) await house.step(juno);
    }
    for (const { id } of await run(
      sql`select id from reading where source_id = ${source} order by number`,
    ))
      readings.push(String(id));
    expect(readings.length).toBe(5);
    const before = await Promise.all(readings.map(seen));
    expect(before.map(([page]) => page.faults.length)).toEqual([1, 1, 1, 2, 1]);
    expect(await share()).toBe(3);
    expect(await Promise.all(readings.map(seen))).toEqual(before);
    expect(await share()).toBe(0);
  });

  test("keep only what differs, and no file; the two newest have everything", async () => {
    const kept = await run(sql`
      select (select count(*)::int from reading_row where reading_id = reading.id) as rows, length(file) > 0 as file,
        (select count(*)::int from reading_fault where reading_id = reading.id) as faults
      from reading where source_id = ${source} order by number`);
    expect(kept).toEqual([
      // The one who is missing in the next; and a fault that counts the addresses of its sheet, which became fewer.
      { rows: 1, file: false, faults: 1 },
      // The line above the titles, and the row whose address changed.
      { rows: 2, file: false, faults: 1 },
      // The student and the address that are gone again.
      { rows: 2, file: false, faults: 0 },
      { rows: 33, file: true, faults: 2 },
      { rows: 31, file: true, faults: 1 },
    ]);
  });

  test("still show what a change was seen by", async () => {
    const { body: rounds } = await juno.ask<{ number: number }[]>("GET", "/api/rounds");
    const evidence = async (): Promise<string[][]> =>
      Promise.all(
        rounds.map(async ({ number }) => {
          const { causes } = await roundOf(juno, number);
          return Promise.all(
            causes.map(async ({ position }) => {
              const found = await juno.ask<CausePage>(
                "GET",
                `/api/rounds/${number}/causes/${position}`,
              );
              return JSON.stringify(found.body.evidence);
            }),
          );
        }),
      );
    const shown = (await evidence()).flat();
    expect(shown.length).toBeGreaterThan(30);
    expect(shown.filter((each) => each.includes("new9@lettr.example")).length).toBeGreaterThan(0);
    expect(shown.filter((each) => !each.includes("Quist"))).toEqual([]);
  });

  test("lose somebody whose data is removed wherever a row of theirs is stored", async () => {
    await house.readLines(juno, [HEAD, ...Array.from({ length: 20 }, (_, at) => student(at))], {
      id: source,
    });
    await house.step(juno);
    expect(await share()).toBe(1);
    const { body: left } = await juno.ask<{ id: string; name: string }[]>(
      "GET",
      "/api/people/left?q=quist25",
    );
    expect(left.map(({ name }) => name).sort()).toEqual(["Ana Quist25", "Bram Quist25"]);
    const others = (await Promise.all(readings.map(seen)))
      .map(([, rows]) => JSON.stringify(rows))
      .map((rows) => rows.split("Quist24").length);
    for (const { id, name } of left)
      expect((await juno.ask("POST", `/api/people/${id}/forget`, { name })).status).toBe(200);
    const after = (await Promise.all(readings.map(seen))).map(([, rows]) => JSON.stringify(rows));
    expect(after.filter((rows) => /Quist25|ana25@|CW-1025/.test(rows))).toEqual([]);
    expect(after.map((rows) => rows.split("Quist24").length)).toEqual(others);
  });

  test("go with their time, whatever is shared", async () => {
    const newest = (await run(sql`select id from reading order by number desc limit 1`))[0]?.id;
    const before = await seen(String(newest));
    await house.amigo.context.db.transaction(async (tx) => {
      await tx.execute(sql`alter table reading disable trigger user`);
      await tx.execute(
        sql`update reading set read_at = read_at - interval '2 years' where number < 6 and source_id = ${source}`,
      );
      await tx.execute(sql`alter table reading enable trigger user`);
    });
    await removeOverTime(house.amigo.context, new Date(Date.now() + 86_400_000));
    expect(
      await run(sql`
        select (select count(*)::int from reading_row where reading_id = reading.id) as rows,
          (select count(*)::int from reading_shared where reading_id = reading.id) as shared
        from reading where source_id = ${source} and number < 6`),
    ).toEqual(Array.from({ length: 5 }, () => ({ rows: 0, shared: 0 })));
    expect(await seen(String(newest))).toEqual(before);
  });
});

describe("rows and faults of any imports", () => {
  const cell = fc.constantFrom("", "Ida", "Bram", "a,b", '"', "\\", "Łoś", "1");
  const row = fc.record({
    cells: fc.array(cell, { minLength: 1, maxLength: 2 }),
    faults: fc.array(fc.constantFrom("comma", "space"), { maxLength: 2 }),
    gap: fc.integer({ min: 1, max: 2 }),
  });
  const sheets = fc.array(fc.array(row, { maxLength: 8 }), { minLength: 1, maxLength: 2 });

  test("are read back as they were stored", async () => {
    const { db } = house.amigo.context;
    await fc.assert(
      fc.asyncProperty(fc.array(sheets, { minLength: 3, maxLength: 6 }), async (imports) => {
        const [made] = await run(
          sql`insert into source (name, kind, season_id, whole) select 'S' || gen_random_uuid(), 'upload', id, false from season where current returning id`,
        );
        const ids: string[] = [];
        for (const [number, theirs] of imports.entries()) {
          const [reading] = await run(sql`
            insert into reading (source_id, number, file_name, format, sha256, file, sheets, plan, rows, students, read_at)
            values (${made?.id}, ${number + 1}, 'a.csv', 'text', '', 'x', '{}', '{}', 0, 0, now() - interval '1 day') returning id`);
          const id = String(reading?.id);
          ids.push(id);
          const placed = theirs.flatMap((rows, sheet) => {
            let at = 0;
            return rows.map((each) => ({ ...each, sheet, row: (at += each.gap) }));
          });
          await db.transaction(async (tx) => {
            await copyInto(
              tx,
              "reading_row (reading_id, sheet, row, cells)",
              placed.map((each) => [id, each.sheet, each.row, each.cells]),
            );
            await copyInto(
              tx,
              'reading_fault (reading_id, sheet, row, "column", written, fault, answer, sentence, why)',
              placed.flatMap((each) =>
                each.faults.map((fault, column) => [
                  id,
                  each.sheet,
                  each.row,
                  column,
                  each.cells[0] ?? "",
                  fault,
                  "clean",
                  "",
                  "",
                ]),
              ),
            );
          });
        }
        const all = () =>
          Promise.all(
            ids.map(async (id) => [await listReadRows(db, id), await listFaults(db, id)]),
          );
        const parts = () =>
          Promise.all(ids.map((id) => listReadRows(db, id, { sheet: 0, from: 3, until: 7 })));
        const [before, partsBefore] = [await all(), await parts()];
        await share();
        expect(await all()).toEqual(before);
        expect(await parts()).toEqual(partsBefore);
      }),
      { numRuns: 40 },
    );
  });
});
