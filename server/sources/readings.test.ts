import { strToU8, zipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { ReadingPage } from "@amigo/contract/readings";
import {
  JUNO,
  proposedPlan,
  startTestHouse,
  type Answer,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { openRoundOf, roundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

interface Outcome {
  source: string;
  round: number | null;
  detail?: string;
  type?: string;
}

async function readText(
  text: string | Uint8Array,
  into: { name: string } | { id: string },
  file = "roster.csv",
  plan?: unknown,
): Promise<Answer<Outcome>> {
  const bytes = typeof text === "string" ? new TextEncoder().encode(text) : text;
  const form = new FormData();
  form.set("file", new File([new Uint8Array(bytes)], file));
  form.set("plan", JSON.stringify(plan ?? proposedPlan(bytes)));
  if ("name" in into) form.set("name", into.name);
  return juno.ask("POST", "id" in into ? `/api/sources/${into.id}/readings` : "/api/sources", form);
}

const HEAD = "Student no.,Surname,First name,Class,Parent 1,Email 1";
const rows = (count: number): string =>
  [
    HEAD,
    ...Array.from(
      { length: count },
      (_, index) =>
        `CW-${1000 + index},Quist${index},Bram,Wire Walk,Ana Quist${index},ana${index}@lettr.example`,
    ),
  ].join("\n");

describe("bad input is told in a sentence and leaves nothing behind", () => {
  const bomb = zipSync({
    "xl/workbook.xml": strToU8("<workbook/>"),
    "xl/big.xml": new Uint8Array(120 * 1024 * 1024),
  });
  const cases: [string, string | Uint8Array, string, unknown, string][] = [
    ["an empty file", new Uint8Array(), "empty.xlsx", undefined, "reading/empty-file"],
    [
      "a file that is no spreadsheet",
      new Uint8Array([0x25, 0x50, 0x44, 0x46, 0x2d]),
      "letter.pdf",
      undefined,
      "reading/not-a-spreadsheet",
    ],
    [
      "a price list",
      "Item,Price\nRope,12\nChalk,4\n",
      "names.csv",
      undefined,
      "reading/no-name-column",
    ],
    [
      "a sheet without names",
      "Class,Email\nWire Walk,a@lettr.example\n",
      "mails.csv",
      undefined,
      "reading/no-name-column",
    ],
    ["titles with nothing below", `${HEAD}\n`, "empty.csv", undefined, "reading/no-rows"],
    [
      "an archive that unpacks to far more than it says",
      bomb,
      "bomb.xlsx",
      undefined,
      "reading/unpacks-too-far",
    ],
    [
      "a damaged file",
      new Uint8Array([0x50, 0x4b, 3, 4, 9, 9, 9, 9]),
      "broken.xlsx",
      undefined,
      "reading/",
    ],
    [
      "the wrong sheet",
      rows(3),
      "roster.csv",
      { sheet: "Read me", headerRow: 0, columns: [] },
      "reading/no-such-sheet",
    ],
  ];
  test.each(cases)("%s", async (_what, bytes, file, plan, type) => {
    const { status, body } = await readText(bytes, { name: "Bad" }, file, plan);
    expect(status).toBe(422);
    expect(body.type).toContain(type);
    expect(body.detail).toMatch(/^[A-Z].{20,}\.$/);
    expect((await juno.ask<unknown[]>("GET", "/api/sources")).body).toEqual([]);
    expect((await juno.ask("GET", "/api/rounds/open")).body).toBeNull();
  });

  test("a file over the limit", async () => {
    const { status, body } = await readText(
      new Uint8Array(27 * 1024 * 1024).fill(65),
      { name: "Huge" },
      "huge.csv",
      { sheet: "Text", headerRow: 0, columns: [] },
    );
    expect([status, body.type]).toEqual([413, "urn:amigo:fault:reading/too-large"]);
  });
});

describe("readings", () => {
  let id = "";

  test("keep every row as it was, HTML and formulas as text, and mark the row without a name", async () => {
    const { body } = await readText(
      `${HEAD}\nCW-1,<b>Quist</b>,Bram,Wire Walk,"=HYPERLINK(""http://x"")",ana@lettr.example\nCW-2,,,Wire Walk,Una Holm,una@lettr.example\n`,
      { name: "Hostile" },
    );
    id = body.source;
    const source = await juno.ask<{ readings: { id: string }[] }>("GET", `/api/sources/${id}`);
    const reading = source.body.readings[0]?.id ?? "";
    const page = await juno.ask<ReadingPage>("GET", `/api/readings/${reading}`);
    expect(page.body.faults).toMatchObject([
      { row: 3, fault: "no-name", sentence: "This row has no student's name" },
    ]);
    const stored = await juno.ask<{ row: number; cells: string[] }[]>(
      "GET",
      `/api/readings/${reading}/rows`,
    );
    expect(stored.body[1]).toEqual({
      row: 2,
      cells: [
        "CW-1",
        "<b>Quist</b>",
        "Bram",
        "Wire Walk",
        '=HYPERLINK("http://x")',
        "ana@lettr.example",
      ],
    });
    await expect(
      house.amigo.context.connection.pool.query("update reading_row set cells = '{}'"),
    ).rejects.toThrow(/never changed/);
    await expect(house.amigo.context.connection.pool.query("delete from journal")).rejects.toThrow(
      /never changed/,
    );
  });

  test("are cut down by a plan of one's own: a column that is not read brings nobody", async () => {
    const bytes = new TextEncoder().encode(rows(2));
    const plan = proposedPlan(bytes);
    const { status } = await readText(bytes, { id }, "roster.csv", {
      ...plan,
      columns: plan.columns.map((column) =>
        column.title === "Class" ? { ...column, meaning: "unread", slot: 0 } : column,
      ),
    });
    expect(status).toBe(200);
    const body = await roundOf(juno);
    expect(body.totals).toMatchObject({ joins: 0, lists: 0 });
  });

  test("of a name that is taken, or of no source, are refused", async () => {
    expect((await readText(rows(1), { name: "HOSTILE" })).status).toBe(409);
    expect((await readText(rows(1), { id: "00000000-0000-4000-8000-000000000000" })).status).toBe(
      404,
    );
  });
});

describe("guards", () => {
  test("stand when a sheet lost many rows and a list many members, and need their count", async () => {
    const { body: sources } = await juno.ask<{ id: string }[]>("GET", "/api/sources");
    const id = sources[0]?.id ?? "";
    await readText(rows(40), { id });
    await house.step(juno);
    await readText(rows(30), { id });
    const round = await roundOf(juno);
    expect(round.guards.map(({ about, count }) => `${about} ${count}`).sort()).toEqual([
      "Hostile 10",
      "Wire Walk, guardians 10",
      "Wire Walk, students 10",
    ]);
    const press = (passed: Record<string, number>) =>
      juno.ask<{ type: string; detail: string }>("POST", "/api/rounds/open/step", {
        round: round.number,
        version: round.version,
        passed,
      });
    const refused = await press({});
    expect([refused.status, refused.body.type]).toEqual([422, "urn:amigo:fault:round/guard"]);
    expect(
      (await press(Object.fromEntries(round.guards.map(({ id: guard }) => [guard, 1])))).status,
    ).toBe(422);
    expect(
      (await press(Object.fromEntries(round.guards.map(({ id: guard, count }) => [guard, count]))))
        .status,
    ).toBe(200);
  });

  test("hold a sheet of somebody else: everybody would leave", async () => {
    const { body: sources } = await juno.ask<{ id: string }[]>("GET", "/api/sources");
    await readText(rows(30).replace(/CW-1/g, "XX-9").replace(/Quist/g, "Holm"), {
      id: sources[0]?.id ?? "",
    });
    const round = await roundOf(juno);
    expect(round.guards.some(({ sentence }) => sentence.includes("would lose"))).toBe(true);
  });

  test("two readings at once are taken one after the other", async () => {
    const { body: sources } = await juno.ask<{ id: string }[]>("GET", "/api/sources");
    const id = sources[0]?.id ?? "";
    const answers = await Promise.all([
      readText(rows(31), { id }),
      readText(rows(32), { id }),
      readText(rows(33), { id }),
    ]);
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
    const open = await openRoundOf(juno);
    expect(open).not.toBeNull();
    const { body: source } = await juno.ask<{ readings: { number: number }[] }>(
      "GET",
      `/api/sources/${id}`,
    );
    expect(new Set(source.readings.map(({ number }) => number)).size).toBe(source.readings.length);
  });
});
