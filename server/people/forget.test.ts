import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
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
