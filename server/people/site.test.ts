import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { PersonPage, Family } from "@amigo/contract/people";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

let house: TestHouse;
let juno: Client;
let odile: Client;

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
/** Two families of one site each, and one with a child at either. */
const ROWS = [
  "CW-1,Holm,Una,Mill Loft,Trapeze Two,Ana Holm,ana@lettr.example",
  "CW-2,Brandt,Ida,Big Barn,Juggling One,Otto Brandt,otto@lettr.example",
  "CW-3,Quist,Bram,Mill Loft,Trapeze Two,Halim Quist,halim@lettr.example",
  "CW-4,Quist,Rosa,Big Barn,Juggling One,Halim Quist,halim@lettr.example",
];

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  odile = await house.signIn(ODILE);
  await house.readLines(juno, [HEAD, ...ROWS], { name: "Roster" });
  await house.step(juno);
});
afterAll(() => house.close());

const names = async (client: Client, query = ""): Promise<string[]> =>
  (await client.ask<{ families: Family[] }>("GET", `/api/people?${query}`)).body.families
    .flatMap(({ people }) => people.map(({ name }) => name))
    .sort();
const idOf = async (name: string): Promise<string> =>
  (await juno.ask<{ families: Family[] }>("GET", "/api/people")).body.families
    .flatMap(({ people }) => people)
    .find((person) => person.name === name)?.id ?? "";

describe("a site coordinator", () => {
  test("sees the students of her site and their guardians, of a family over two sites her part", async () => {
    expect(await names(juno)).toEqual([
      "Ana Holm",
      "Bram Quist",
      "Halim Quist",
      "Ida Brandt",
      "Otto Brandt",
      "Rosa Quist",
      "Una Holm",
    ]);
    expect(await names(odile)).toEqual(["Ana Holm", "Bram Quist", "Halim Quist", "Una Holm"]);
    expect(await names(odile, "q=brandt")).toEqual([]);
    expect(await names(odile, "q=quist")).toEqual(["Bram Quist", "Halim Quist"]);
    const { body } = await odile.ask<{ total: number }>("GET", "/api/people");
    expect(body.total).toBe(2);
  });

  test("opens them with the lists of her site alone, and nobody else", async () => {
    const halim = await idOf("Halim Quist");
    const theirs = (await odile.ask<PersonPage>("GET", `/api/people/${halim}`)).body;
    expect(theirs.ties.map(({ name }) => name)).toEqual(["Bram Quist"]);
    expect(JSON.stringify(theirs)).not.toMatch(/Rosa|Juggling/);
    expect(theirs.lists.map(({ title }) => title)).toEqual(["Trapeze Two, guardians"]);
    expect(
      JSON.stringify((await juno.ask<PersonPage>("GET", `/api/people/${halim}`)).body),
    ).toMatch(/Rosa[^]*Juggling/);
    const otto = await idOf("Otto Brandt");
    expect((await odile.ask("GET", `/api/people/${otto}`)).status).toBe(404);
    expect((await odile.ask("GET", `/api/people/${halim}/record`)).status).toBe(403);
    const found = (
      await odile.ask<{ title: string; detail: string }[]>("GET", "/api/find?q=quist")
    ).body.sort((a, b) => a.title.localeCompare(b.title));
    expect(found.map(({ title }) => title)).toEqual(["Bram Quist", "Halim Quist"]);
    expect(found[1]?.detail).toMatch(/^guardian of Bram · Trapeze Two · ml-trapeze\S*$/);
    expect((await odile.ask<unknown[]>("GET", "/api/find?q=otto")).body).toEqual([]);
  });

  test("settles what is hers, and nothing of another site", async () => {
    const [ana, otto, halim] = [
      await idOf("Ana Holm"),
      await idOf("Otto Brandt"),
      await idOf("Halim Quist"),
    ];
    expect(
      (
        await odile.ask("PUT", `/api/people/${otto}/addresses`, {
          addresses: ["new@lettr.example"],
        })
      ).status,
    ).toBe(404);
    expect((await odile.ask("POST", `/api/people/${halim}/join`, { other: otto })).status).toBe(
      404,
    );
    expect(
      (
        await odile.ask("PUT", `/api/people/${ana}/addresses`, {
          addresses: ["ana.holm@lettr.example"],
        })
      ).status,
    ).toBe(200);
    expect(
      (
        await juno.ask("PUT", `/api/people/${otto}/addresses`, {
          addresses: ["otto.brandt@lettr.example"],
        })
      ).status,
    ).toBe(200);
    const said = (await odile.ask<{ id: number; sentence: string }[]>("GET", "/api/by-hand")).body;
    expect(said.map(({ sentence }) => sentence).join()).toContain("ana.holm@lettr.example");
    expect(said).toHaveLength(1);
    const all = (await juno.ask<{ id: number; sentence: string }[]>("GET", "/api/by-hand")).body;
    const ottos = all.find(({ sentence }) => sentence.includes("otto"))?.id ?? 0;
    expect((await odile.ask("DELETE", `/api/by-hand/${ottos}`)).status).toBe(404);
    expect((await odile.ask("DELETE", `/api/by-hand/${said[0]?.id ?? 0}`)).status).toBe(200);
  });

  test("reads the journal of the lists of her site, and her own entries", async () => {
    const entries = async (client: Client): Promise<string> =>
      (await client.ask<{ entries: { sentence: string }[] }>("GET", "/api/journal")).body.entries
        .map(({ sentence }) => sentence)
        .join("\n");
    const hers = await entries(odile);
    expect(await entries(juno)).toContain("otto.brandt@lettr.example");
    expect(hers).not.toMatch(/otto|juggling one/i);
    expect(hers).toContain("Odile Marchetti");
    const csv = await odile.ask<string>("GET", "/api/journal/export");
    expect([csv.status, /otto/i.test(csv.body)]).toEqual([200, false]);
    const ravi = await house.signIn(RAVI);
    for (const path of ["/api/people", "/api/journal", "/api/journal/export"])
      expect((await ravi.ask("GET", path)).status, path).toBe(403);
  });
});
