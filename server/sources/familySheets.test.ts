import { sql } from "drizzle-orm";
import Papa from "papaparse";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { PersonPage } from "@amigo/contract/people";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

/** Who is found by a word, by name. */
async function find(word: string): Promise<Map<string, string>> {
  const { body } = await juno.ask<{ families: { people: { id: string; name: string }[] }[] }>(
    "GET",
    `/api/people?q=${word}`,
  );
  return new Map(body.families.flatMap(({ people }) => people.map(({ id, name }) => [name, id])));
}

async function page(id: string | undefined): Promise<PersonPage> {
  return (await juno.ask<PersonPage>("GET", `/api/people/${id ?? ""}`)).body;
}

describe("a sheet with a row for each person", () => {
  const LINES = [
    "Family ID,Type,First name,Last name,Class,Email",
    "F01,Child,Tove,Skov,Wire Walk,",
    "F01,Adult,Ane,Skov,,ane.skov@lettr.example",
    "F02,Adult,Ida,Feld,,ida.feld@lettr.example",
    "F02,Child,Lea,Feld,Silks,",
    "F02,Child,Aron,Feld,Wire Walk,",
    "F09,Adult,Runa,Lehto,,runa@lettr.example",
  ];
  let source = "";

  test("reaches the families by the addresses in the parents' rows, and says in which row they stand", async () => {
    ({ source } = await house.readLines(juno, LINES, { name: "Members" }));
    await house.step(juno);
    const found = await find("feld");
    expect([...found.keys()].sort()).toEqual(["Aron Feld", "Ida Feld", "Lea Feld"]);
    const ida = await page(found.get("Ida Feld"));
    expect(JSON.stringify(ida)).toContain("ida.feld@lettr.example");
    expect(JSON.stringify(ida)).toContain("Members, row 4, column F");
    expect((await find("lehto")).size).toBe(0);
  });

  test("comes back with news in the rows of the children and of the parents", async () => {
    const response = await fetch(`${house.url}/api/sources/${source}/answered/csv`, {
      headers: { Cookie: juno.cookie },
    });
    const { data } = Papa.parse<string[]>((await response.text()).trim());
    const told = data.slice(1).map((row) => row.slice(6).join(" | "));
    expect(told[1]).toContain("Wire Walk, guardians");
    expect(told.slice(0, 5).filter((text) => text.replaceAll(/[ |]/g, "") === "")).toEqual([]);
  });

  test("follows a parent's new address, and a child who leaves with the family", async () => {
    const { causes } = await house.readLines(
      juno,
      [
        ...LINES.slice(0, 1),
        ...LINES.slice(3).map((line) => line.replace("ida.feld@lettr", "ida@oakmail")),
      ],
      { id: source },
    );
    expect(causes).toBe(2);
    await house.step(juno);
    expect((await find("skov")).size).toBe(0);
    expect(JSON.stringify(await page((await find("feld")).get("Ida Feld")))).toContain(
      "ida@oakmail.example",
    );
  });

  test("loses a parent's own row when their data is removed, and nobody else's", async () => {
    const rows = async (): Promise<string> =>
      JSON.stringify(
        (await house.amigo.context.db.execute(sql`select cells from reading_row order by row`))
          .rows,
      );
    const { body: left } = await juno.ask<{ id: string; name: string }[]>(
      "GET",
      "/api/people/left?q=skov",
    );
    const ane = left.find(({ name }) => name === "Ane Skov");
    expect(await rows()).toContain("ane.skov@lettr.example");
    expect(
      (await juno.ask("POST", `/api/people/${ane?.id ?? ""}/forget`, { name: "Ane Skov" })).status,
    ).toBe(200);
    expect(await rows()).not.toContain("ane.skov@lettr.example");
    expect(await rows()).not.toContain('"Ane"');
    expect(await rows()).toContain('"Tove"');
  });
});

describe("a sheet with a row for each family", () => {
  test("makes each child in a cell a student of their own class", async () => {
    await house.readLines(
      juno,
      [
        "Family name,Children,Mother,Mother's e-mail",
        'Ruiz,"Inés (Silks), Pau (Wire Walk)",Pilar,pilar@lettr.example',
        "Dahl,Liv (Silks),Rut,rut@lettr.example",
        'Mazur,"Zofia (Wire Walk), Bartek (Silks)",Ewa,ewa@lettr.example',
      ],
      { name: "Families" },
    );
    await house.step(juno);
    const found = await find("ruiz");
    const details = await Promise.all(
      ["Inés Ruiz", "Pau Ruiz"].map(async (name) => (await page(found.get(name))).person.detail),
    );
    expect(details).toEqual(["Silks", "Wire Walk"]);
    const { lists, ties } = await page(found.get("Pilar Ruiz") ?? found.get("Pilar"));
    expect(ties.map(({ name }) => name).sort()).toEqual(["Inés Ruiz", "Pau Ruiz"]);
    expect(lists.map(({ title }) => title).sort()).toEqual([
      "Silks, guardians",
      "Wire Walk, guardians",
    ]);
  });
});
