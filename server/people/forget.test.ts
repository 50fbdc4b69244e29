import { utils, write } from "@e965/xlsx";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import {
  JUNO,
  proposedPlan,
  startTestHouse,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { takerOf } from "./sweepTexts";
import { REMOVED } from "./removalQueries";

describe("what tells of somebody is taken out, and nothing of anybody else", () => {
  const { ofText, ofValue, stands } = takerOf({
    names: [{ given: "Ida", family: "Brandt" }],
    marks: new Map([
      ["ida@oakmail.example", "x@removed.invalid"],
      ["CW-104", "removed-1"],
    ]),
    key: "removed-2",
  });

  test.each([
    ["Ida Brandt joined", `${REMOVED} joined`],
    ["BRANDT, IDA (cw-104).", `${REMOVED} (removed-1).`],
    ["to ida@oakmail.example.", "to x@removed.invalid."],
    ['"given":"Ida","family":"Brandt"', '"given":"somebody","family":"removed"'],
  ])("%s", (text, cleaned) => expect(ofText(text)).toBe(cleaned));

  test.each([
    "Anna-Ida Brandt",
    "Ida Brandt-Holm",
    "Frida Brandt",
    "anna.ida@oakmail.example",
    "ida@oakmail.example.org",
    "CW-1040",
    "Ida",
    "Brandt",
  ])("%s is somebody else", (text) => {
    expect(ofText(text)).toBe(text);
    expect(stands([text])).toBe(false);
  });

  test("in pieces beside each other, the nearest surname is theirs", () => {
    expect(ofValue(["Brandt", "Ida", "Wire Walk", "Halim", "Brandt"])).toEqual([
      "",
      "",
      "Wire Walk",
      "Halim",
      "Brandt",
    ]);
    expect(ofValue({ given: "Ida", family: "Brandt", class: "One" })).toEqual({
      given: "",
      family: "",
      class: "One",
    });
  });
});

describe("in a house with a namesake, and with numbers that are also counts", () => {
  let house: TestHouse;
  let juno: Client;
  const HEAD = "Student no.,Surname,First name,Class,Level,Parent 1,Email 1";
  const GONE = "20,Quist,Bram,Wire Walk,4,Fenna Quist,fenna.quist@lettr.example";
  const STAYING = [
    "21,Quist,Bram,Juggling One,20,Otto Quist,otto.quist@lettr.example",
    "22,Holm,Una,Wire Walk,4,Ana Holm,ana@lettr.example",
  ];

  beforeAll(async () => {
    house = await startTestHouse({ roles: "web" });
    juno = await house.signIn(JUNO);
  });
  afterAll(() => house.close());

  test("the others keep their names, rows, rules and lists", async () => {
    const { source } = await house.readLines(juno, [HEAD, GONE, ...STAYING], { name: "Office" });
    await house.step(juno);
    await house.readLines(juno, [HEAD, ...STAYING], { id: source });
    await house.step(juno);
    const rows = async (query: ReturnType<typeof sql>) =>
      (await house.amigo.context.db.execute(query)).rows;
    const rules = await rows(sql`select key, rules, title from list order by key`);
    const newest = await rows(
      sql`select cells from reading_row where reading_id = (select id from reading order by number desc limit 1) order by row`,
    );
    const { body: left } = await juno.ask<{ id: string; name: string }[]>(
      "GET",
      "/api/people/left?q=quist",
    );
    expect(left.map(({ name }) => name).sort()).toEqual(["Bram Quist", "Fenna Quist"]);
    for (const { id, name } of left)
      expect((await juno.ask("POST", `/api/people/${id}/forget`, { name })).status).toBe(200);
    expect(await rows(sql`select key, rules, title from list order by key`)).toEqual(rules);
    expect(
      await rows(
        sql`select cells from reading_row where reading_id = (select id from reading order by number desc limit 1) order by row`,
      ),
    ).toEqual(newest);
    expect(
      (await rows(sql`select length(file) as length from reading order by number`)).map(
        ({ length }) => Number(length) > 0,
      ),
    ).toEqual([false, true]);
    const { body: people } = await juno.ask<{ families: { people: { name: string }[] }[] }>(
      "GET",
      "/api/people?q=quist",
    );
    expect(
      people.families.flatMap((family) => family.people.map(({ name }) => name)).sort(),
    ).toEqual(["Bram Quist", "Otto Quist"]);
    // The same sheet once more changes nothing: what was removed has left no gap in what stands.
    await house.readLines(juno, [HEAD, ...STAYING, ""], { id: source });
    expect((await juno.ask("GET", "/api/rounds/open")).body).toBeNull();
    const of = await rows(
      sql`select cells::text as cells from reading_row where cells::text ilike '%fenna%'`,
    );
    expect(of).toEqual([]);
  });
});

describe("in a file with a sheet for each class", () => {
  let house: TestHouse;
  let juno: Client;
  const HEAD = ["Name", "Parent 1", "Email 1", "Costume"];
  /** The file with the students of each class, who stand in the same rows of their sheets. */
  const file = (silks: readonly string[], rope: readonly string[]): Uint8Array<ArrayBuffer> => {
    const book = utils.book_new();
    for (const [name, students] of [
      ["Silks", silks],
      ["Rope", rope],
    ] as const) {
      const rows = students.map((student) => {
        const [given = "", family = ""] = student.split(" ");
        const parent = `Rosa ${family}`;
        return [student, parent, `rosa.${family.toLowerCase()}@lettr.example`, `${given}'s cape`];
      });
      utils.book_append_sheet(book, utils.aoa_to_sheet([HEAD, ...rows]), name);
    }
    return new Uint8Array(write(book, { type: "buffer", bookType: "xlsx" }) as Buffer);
  };
  const read = async (bytes: Uint8Array<ArrayBuffer>, into: string): Promise<string> => {
    const form = new FormData();
    form.set("file", new File([bytes], "classes.xlsx"));
    form.set("plan", JSON.stringify({ ...proposedPlan(bytes), sheet: "Silks", others: ["Rope"] }));
    if (into === "") form.set("name", "Classes");
    const { status, body } = await juno.ask<{ source: string }>(
      "POST",
      into === "" ? "/api/sources" : `/api/sources/${into}/readings`,
      form,
    );
    expect(status, JSON.stringify(body)).toBe(200);
    return body.source;
  };
  const cells = async (): Promise<string> => {
    const { rows } = await house.amigo.context.db.execute(
      sql`select cells from reading_row order by reading_id, sheet, row`,
    );
    return JSON.stringify(rows);
  };

  beforeAll(async () => {
    house = await startTestHouse({ roles: "web" });
    juno = await house.signIn(JUNO);
  });
  afterAll(() => house.close());

  test("the row in their own sheet is emptied, whatever stands in that row of another", async () => {
    const source = await read(
      file(["Una Holm", "Otto Fälth", "Ida Merrow"], ["Bram Quist", "Mina Holm", "Wren Gallo"]),
      "",
    );
    await house.step(juno);
    await read(file(["Una Holm", "Otto Fälth"], ["Bram Quist", "Mina Holm", "Wren Gallo"]), source);
    await house.step(juno);
    expect(await cells()).toContain("Ida's cape");
    const { body: left } = await juno.ask<{ id: string; name: string }[]>(
      "GET",
      "/api/people/left?q=merrow",
    );
    expect(left.map(({ name }) => name).sort()).toEqual(["Ida Merrow", "Rosa Merrow"]);
    for (const { id, name } of left)
      expect((await juno.ask("POST", `/api/people/${id}/forget`, { name })).status).toBe(200);
    const after = await cells();
    expect(after).not.toMatch(/Ida|Merrow|merrow/);
    for (const stays of ["Wren's cape", "rosa.gallo@lettr.example", "Mina Holm"])
      expect(after.split(stays), stays).toHaveLength(3);
  });
});
