import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Family, PersonPage, QuestionLine } from "@amigo/contract/people";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { openRoundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
let roster = "";

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1,Parent 2,Email 2";
const IDA =
  "CW-1,Brandt,Ida,Mill Loft,Trapeze Two,Halim Brandt,halim@oakmail.example,Petra Ibsen,petra@lettr.example";
const BRAM = "CW-2,Brandt,Bram,Mill Loft,Wire Walk,Halim Brandt,,,";
const UNA = "CW-3,Holm,Úna,Mill Loft,Wire Walk,,,,";
const QUIST = "CW-4,Quist,Bram,Mill Loft,Wire Walk,Ana Quist,ana@lettr.example,,";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  roster = (await house.readLines(juno, [HEAD, IDA, BRAM, UNA, QUIST], { name: "Roster" })).source;
  await house.step(juno);
});
afterAll(() => house.close());

const find = async (query: string): Promise<Family[]> =>
  (await juno.ask<{ families: Family[] }>("GET", `/api/people?${query}`)).body.families;
const idOf = async (name: string, at = 0): Promise<string> =>
  (await find("")).flatMap(({ people }) => people).filter((person) => person.name === name)[at]
    ?.id ?? "";
const page = async (id: string): Promise<PersonPage> =>
  (await juno.ask<PersonPage>("GET", `/api/people/${id}`)).body;
const questions = async (): Promise<QuestionLine[]> =>
  (await juno.ask<QuestionLine[]>("GET", "/api/questions")).body;
const open = () => openRoundOf(juno);
const again = () =>
  house.readLines(
    juno,
    [
      HEAD,
      UNA,
      QUIST,
      BRAM,
      IDA,
      "CW-9,Vanstone,Rosa,Mill Loft,Wire Walk,Otto Vanstone,otto@lettr.example,,",
    ],
    { id: roster },
  );

describe("families", () => {
  test.each([
    ["q=brandt", ["Brandt", "Brandt"]],
    ["q=ida bra", ["Brandt"]],
    ["q=una", ["Holm"]],
    ["q=petra@lettr", ["Brandt"]],
    ["q=CW-4", ["Quist"]],
    ["q=bram quist", ["Quist"]],
    ["q=ibsen", ["Brandt"]],
    ["q=nobody", []],
    ["q=%25", []],
    ["only=unreachable", ["Brandt", "Holm"]],
    ["q=holm&only=unreachable", ["Holm"]],
  ])("by %s", async (query, names) =>
    expect((await find(query)).map(({ name }) => name)).toEqual(names),
  );

  test("say what is missing in them", async () => {
    const all = await find("");
    expect(all.flatMap(({ missing }) => missing)).toEqual([
      "Halim Brandt has no address",
      "no guardian of Bram Brandt can be reached",
      "Úna Holm has no guardian",
    ]);
  });

  test("have a page for each person: lists and why, and what became known when", async () => {
    const halim = await page((await idOf("Halim Brandt", 1)) || (await idOf("Halim Brandt")));
    const ida = await page(await idOf("Ida Brandt"));
    expect(ida.lists).toMatchObject([
      {
        title: "Trapeze Two, students",
        because: "student of Trapeze Two",
        where: "Roster, row 2, column E",
      },
    ]);
    expect(ida.timeline.map(({ what, sign }) => `${sign} ${what}`)).toEqual(
      expect.arrayContaining([
        "+ joined as a student",
        "+ in Trapeze Two",
        "+ is called Ida Brandt",
        "+ Halim Brandt is a guardian",
      ]) as string[],
    );
    expect(halim.person.role).toBe("guardian");
    expect((await juno.ask("GET", "/api/people/s-nobody")).status).toBe(404);
  });
});

describe("questions", () => {
  test("are shown with both sides and where they stand, answered once, and not asked again", async () => {
    const [asked, ...others] = await questions();
    expect(others).toEqual([]);
    expect(asked).toMatchObject({
      about:
        "Is Halim Brandt, guardian of Ida Brandt, the same person as Halim Brandt, guardian of Bram Brandt?",
      sides: [{ where: "Roster, row 2, column F" }, { where: "Roster, row 3, column F" }],
    });
    expect(
      (await juno.ask("POST", "/api/questions/answer", { key: asked?.key, choice: "perhaps" }))
        .status,
    ).toBe(409);
    expect(
      (await juno.ask("POST", "/api/questions/answer", { key: asked?.key, choice: "same" })).status,
    ).toBe(200);
    expect(await questions()).toEqual([]);
    expect(
      (await open())?.causes.map(({ kind, title, detail }) => `${kind} ${title} ${detail}`),
    ).toContain("guardian-added Halim Brandt is now a guardian of Bram Brandt");
    await house.step(juno);
    await again();
    expect(await questions()).toEqual([]);
    expect(
      (await juno.ask("POST", "/api/questions/answer", { key: asked?.key, choice: "same" })).status,
    ).toBe(409);
  });

  test("answered are listed with who said it, and can be taken back", async () => {
    const { body } = await juno.ask<{ id: number; sentence: string; by: string }[]>(
      "GET",
      "/api/by-hand",
    );
    expect(body).toMatchObject([
      {
        by: "Juno Abara",
        sentence: expect.stringMatching(/the same person as .+ One person$/) as string,
      },
    ]);
    expect((await juno.ask("DELETE", `/api/by-hand/${body[0]?.id}`)).status).toBe(200);
    expect((await juno.ask("DELETE", `/api/by-hand/${body[0]?.id}`)).status).toBe(404);
  });
});

describe("by hand", () => {
  test("two are joined at once, which no later reading undoes", async () => {
    await house.step(juno);
    const [one, other] = [await idOf("Petra Ibsen"), await idOf("Ana Quist")];
    expect((await juno.ask("POST", `/api/people/${one}/join`, { other })).status).toBe(200);
    expect((await page(one)).ties.map(({ name }) => name).sort()).toEqual([
      "Bram Quist",
      "Ida Brandt",
    ]);
    await again();
    expect((await open())?.causes.filter(({ kind }) => kind !== "joined") ?? []).toEqual([]);
    expect((await juno.ask("GET", `/api/people/${other}`)).status).toBe(404);
  });

  test("one is parted in two by children and addresses, which no later reading undoes", async () => {
    const one = (await idOf("Petra Ibsen")) || (await idOf("Ana Quist"));
    const before = await page(one);
    const bram = before.ties.find(({ name }) => name === "Bram Quist")?.id;
    const { status, body } = await juno.ask<{ person: string }>("POST", `/api/people/${one}/part`, {
      students: [bram],
      addresses: ["ana@lettr.example"],
    });
    expect(status).toBe(200);
    expect((await page(body.person)).ties.map(({ name }) => name)).toEqual(["Bram Quist"]);
    expect((await page(one)).ties.map(({ name }) => name)).toEqual(["Ida Brandt"]);
    await again();
    expect((await page(one)).ties.map(({ name }) => name)).toEqual(["Ida Brandt"]);
    expect((await page(body.person)).ties.map(({ name }) => name)).toEqual(["Bram Quist"]);
  });

  test("addresses are settled against every sheet, until that is taken back", async () => {
    const petra =
      (await find("q=petra"))
        .flatMap(({ people }) => people)
        .find(
          ({ role, addresses }) =>
            role === "guardian" && addresses.some(({ address }) => address.startsWith("petra")),
        )?.id ?? "";
    expect(
      (
        await juno.ask("PUT", `/api/people/${petra}/addresses`, {
          addresses: ["petra.new@fernpost.example"],
        })
      ).status,
    ).toBe(200);
    expect((await open())?.causes.map(({ kind, detail }) => `${kind}: ${detail}`)).toContain(
      "corrected: petra@lettr.example → petra.new@fernpost.example",
    );
    await house.step(juno);
    await house.readLines(
      juno,
      [HEAD, UNA, QUIST, BRAM, IDA.replace("petra@lettr", "petra2@lettr")],
      { id: roster },
    );
    expect((await open())?.causes.filter(({ title }) => title === "Petra Ibsen") ?? []).toEqual([]);
    const said = (await page(petra)).byHand.find(({ sentence }) => sentence.includes("petra.new"));
    await juno.ask("DELETE", `/api/by-hand/${said?.id}`);
    expect((await open())?.causes.map(({ detail }) => detail)).toContain(
      "petra.new@fernpost.example → petra2@lettr.example",
    );
  });

  test.each<[string, () => Promise<[string, string, unknown]>, number]>([
    [
      "a student with a guardian",
      async () => [
        "POST",
        `/api/people/${await idOf("Ida Brandt")}/join`,
        { other: await idOf("Halim Brandt") },
      ],
      422,
    ],
    [
      "somebody with themselves",
      async () => [
        "POST",
        `/api/people/${await idOf("Ida Brandt")}/join`,
        { other: await idOf("Ida Brandt") },
      ],
      422,
    ],
    [
      "nobody",
      async () => ["POST", `/api/people/${await idOf("Ida Brandt")}/join`, { other: "s-nobody" }],
      404,
    ],
    [
      "a student in two",
      async () => [
        "POST",
        `/api/people/${await idOf("Ida Brandt")}/part`,
        { students: [], addresses: ["cw-1@copperwheel.example"] },
      ],
      422,
    ],
    [
      "nothing chosen",
      async () => ["POST", `/api/people/${await idOf("Halim Brandt")}/part`, {}],
      422,
    ],
    [
      "what is no address",
      async () => [
        "PUT",
        `/api/people/${await idOf("Halim Brandt")}/addresses`,
        { addresses: ["halim at home"] },
      ],
      422,
    ],
  ])("%s: refused", async (_what, ask, status) => {
    const [method, path, body] = await ask();
    expect((await juno.ask(method, path, body)).status).toBe(status);
  });
});
