import { utils, write } from "@e965/xlsx";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import type { KnownWords } from "@amigo/core/sheet/columns/knownWords";
import {
  JUNO,
  proposedPlan,
  startTestHouse,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const LINES = [
  "Surname,First name,Class,Email,Date of birth,Allergies",
  ...Array.from(
    { length: 8 },
    (_, at) =>
      `Quist,${["Bram", "Una", "Ida", "Leif"][at % 4] ?? ""}${"abcdefgh".charAt(at)},Wire Walk,q${at}@lettr.example,201${at % 5}-03-1${at},secretnuts${at}`,
  ),
];
const query = async (text: string, values: unknown[]): Promise<Record<string, unknown>[]> =>
  (await house.amigo.context.connection.pool.query(text, values)).rows as Record<string, unknown>[];

describe("health and birth dates", () => {
  test.each(["health.csv", "health.xlsx", "health.ods"])(
    "are in no row, fault or kept file: %s",
    async (name) => {
      const sheet = utils.aoa_to_sheet(LINES.map((line) => line.split(",")));
      const bytes = name.endsWith(".csv")
        ? new TextEncoder().encode(LINES.join("\n"))
        : new Uint8Array(
            write(
              { SheetNames: ["One"], Sheets: { One: sheet } },
              { type: "array", bookType: name.endsWith(".ods") ? "ods" : "xlsx" },
            ) as ArrayBuffer,
          );
      const form = new FormData();
      form.set("file", new File([new Uint8Array(bytes)], name));
      const plan = proposedPlan(bytes);
      expect(plan.columns.map(({ meaning }) => meaning).slice(-2)).toEqual(["private", "private"]);
      form.set("plan", JSON.stringify(plan));
      form.set("name", name);
      const { status, body } = await juno.ask<{ reading: string }>("POST", "/api/sources", form);
      expect(status).toBe(200);
      const rows = await query("select cells from reading_row where reading_id = $1", [
        body.reading,
      ]);
      expect(rows).toHaveLength(9);
      expect(JSON.stringify(rows)).not.toMatch(/secretnuts|-03-1/);
      const [kept] = await query("select file from reading where id = $1", [body.reading]);
      const book = readWorkbook(new Uint8Array(kept?.file as Buffer));
      const cells = book.ok
        ? book.workbook.sheets.flatMap((eachSheet) => eachSheet.rows.flat())
        : [];
      expect(cells).toContain("q3@lettr.example");
      expect(cells.join()).not.toMatch(/secretnuts|-03-1/);
    },
  );

  test("are in no kept file, either, where they stand in a sheet that isn't read", async () => {
    const rows = LINES.map((line) => line.split(",").slice(0, 4));
    const medical = [
      ["Name", "Allergies", "Doctor's phone"],
      ["Bram Quist", "secretnuts", "01632 960101"],
      ["Una Quist", "secretmilk", "01632 960102"],
      ["Ida Quist", "", "01632 960103"],
    ];
    const bytes = new Uint8Array(
      write(
        {
          SheetNames: ["Roster", "Medical"],
          Sheets: { Roster: utils.aoa_to_sheet(rows), Medical: utils.aoa_to_sheet(medical) },
        },
        { type: "array", bookType: "xlsx" },
      ) as ArrayBuffer,
    );
    const plan = proposedPlan(bytes);
    expect([plan.sheet, plan.others ?? []]).toEqual(["Roster", []]);
    const form = new FormData();
    form.set("file", new File([bytes], "two.xlsx"));
    form.set("plan", JSON.stringify(plan));
    form.set("name", "Two sheets");
    const { body } = await juno.ask<{ reading: string }>("POST", "/api/sources", form);
    const [kept] = await query("select file from reading where id = $1", [body.reading]);
    const book = readWorkbook(new Uint8Array(kept?.file as Buffer));
    const cells = book.ok ? book.workbook.sheets.flatMap((eachSheet) => eachSheet.rows.flat()) : [];
    expect(cells).toEqual(expect.arrayContaining(["Allergies", "q3@lettr.example"]));
    expect(cells.join()).not.toMatch(/secret|01632/);
  });

  test("that a form tool posts are never kept: new fields by their names, known ones as was decided", async () => {
    const { body: made } = await juno.ask<{ id: string; url: string }>(
      "POST",
      "/api/sources/posted",
      { name: "Posted" },
    );
    const post = (fields: Record<string, string>) =>
      fetch(made.url, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify(fields),
      });
    const answer = {
      "Child's first name": "Ada",
      "Child's surname": "Fenn",
      "Parent email": "ruth@lettr.example",
      "Date of birth": "2015-03-04",
      "Any allergies?": "secretnuts",
      "Lucky word": "secretfox",
    };
    expect((await post(answer)).status).toBe(202);
    const kept = async () =>
      (
        await query(
          "select fields from posted_answer where source_id = $1 order by number desc limit 1",
          [made.id],
        )
      )[0]?.fields as [string, string][];
    expect(Object.fromEntries(await kept())).toEqual({
      ...answer,
      "Date of birth": "",
      "Any allergies?": "",
    });
    const look = await juno.ask<{ base64: string }>("POST", "/api/sources/look", {
      kind: "posted",
      location: made.id,
    });
    const bytes = new Uint8Array(Buffer.from(look.body.base64, "base64"));
    const plan = proposedPlan(bytes);
    const form = new FormData();
    form.set("file", new File([bytes], "answers.csv"));
    form.set(
      "plan",
      JSON.stringify({
        ...plan,
        columns: plan.columns.map((column) =>
          column.title === "Lucky word" ? { ...column, meaning: "private", slot: 0 } : column,
        ),
      }),
    );
    const read = await juno.ask("POST", `/api/sources/${made.id}/readings`, form);
    expect(read.status).toBe(200);
    await post({ ...answer, "Child's first name": "Kit", "Lucky word": "secrethare" });
    expect(Object.fromEntries(await kept())["Lucky word"]).toBe("");
  });

  test("a further import of the very same file is known again", async () => {
    const form = new FormData();
    const bytes = new TextEncoder().encode(LINES.join("\n"));
    form.set("file", new File([bytes], "health.csv"));
    form.set("plan", JSON.stringify(proposedPlan(bytes)));
    const sources = await juno.ask<{ id: string; name: string }[]>("GET", "/api/sources");
    const id = sources.body.find(({ name }) => name === "health.csv")?.id ?? "";
    const { body } = await juno.ask<{ same: boolean }>("POST", `/api/sources/${id}/readings`, form);
    expect(body.same).toBe(true);
  });
});

test("the house's words are titles that were read before, with its sites, staff and people", async () => {
  const { body } = await juno.ask<KnownWords>("GET", "/api/known-words");
  expect(body.titles).toContainEqual({ title: "Allergies", meaning: "private" });
  expect(body.sites).toEqual(expect.arrayContaining(["BB", "Big Barn"]));
  expect(body.staff).toContain("Juno Abara");
  await house.readLines(
    juno,
    ["First name,Surname,Class,Parent,Email", "Ada,Fenn,Larks,Ruth Fenn,ruth@lettr.example"],
    { name: "Larks" },
  );
  await house.step(juno);
  const { people } = (await juno.ask<KnownWords>("GET", "/api/known-words")).body;
  expect(people?.students).toContainEqual({ given: "Ada", family: "Fenn" });
  expect(people?.guardians).toContainEqual({ given: "Ruth", family: "Fenn" });
});
