import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { ANSWER_TITLES } from "@amigo/core/sheet/answers/answerColumns";
import type { SourceLine } from "@amigo/contract/sources";
import { read, utils } from "@e965/xlsx";
import {
  JUNO,
  proposedPlan,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type ReadAnswer,
  type TestHouse,
} from "../testing/testHouse";
import { TRUTH } from "../testing/truth";
import { lockRounds } from "../change/roundQueries";
import Papa from "papaparse";

let house: TestHouse;
let juno: Client;
let watched = "";

beforeAll(async () => {
  watched = mkdtempSync(join(tmpdir(), "amigo-watched-"));
  house = await startTestHouse({ settings: { AMIGO_WATCHED: watched } });
  juno = await house.signIn(JUNO);
});
afterAll(async () => {
  await house.close();
  rmSync(watched, { recursive: true, force: true });
});

async function handedBack(id: string, format: string): Promise<Uint8Array> {
  const response = await fetch(`${house.url}/api/sources/${id}/answered/${format}`, {
    headers: { Cookie: juno.cookie },
  });
  expect(response.status).toBe(200);
  return new Uint8Array(await response.arrayBuffer());
}

/** The cells of a sheet as a library of others reads them. */
function cellsOf(bytes: Uint8Array, sheet: string): string[][] {
  const found = read(bytes, { type: "array" }).Sheets[sheet];
  return found === undefined
    ? []
    : utils.sheet_to_json<string[]>(found, { header: 1, defval: "", raw: false });
}

async function readAgain(id: string, bytes: Uint8Array, name: string): Promise<ReadAnswer> {
  const form = new FormData();
  form.set("file", new File([new Uint8Array(bytes)], name));
  form.set("plan", JSON.stringify(proposedPlan(bytes)));
  const { status, body } = await juno.ask<ReadAnswer>("POST", `/api/sources/${id}/readings`, form);
  expect([status, body.detail]).toEqual([200, undefined]);
  return body;
}

describe("the sample roster", () => {
  let id = "";

  test("comes back with the status of each row, and is opened again to no change at all", async () => {
    id = (await house.read(juno, "autumn-roster.xlsx")).body.source;
    const waiting = cellsOf(await handedBack(id, "xlsx"), "Roster");
    expect(waiting[4]?.slice(-3)).toEqual([...ANSWER_TITLES]);
    expect(
      waiting
        .slice(5, 225)
        .map((row) => row.at(-3))
        .filter((status) => status !== "new, waits in round 1" && status !== "question"),
    ).toEqual([]);
    await house.step(juno);
    for (const format of ["xlsx", "ods", "csv"]) {
      const bytes = await handedBack(id, format);
      const rows =
        format === "csv"
          ? Papa.parse<string[]>(new TextDecoder().decode(bytes)).data
          : cellsOf(bytes, "Roster");
      const titled = rows.findIndex((row) => row.includes(ANSWER_TITLES[0]));
      const at = rows[titled]?.indexOf(ANSWER_TITLES[0]) ?? 0;
      const students = rows.slice(titled + 1).filter((row) => (row[0] ?? "").startsWith("CW-"));
      expect(students).toHaveLength(220);
      const statuses = new Map<string, number>();
      for (const row of students)
        statuses.set(row[at] ?? "", (statuses.get(row[at] ?? "") ?? 0) + 1);
      expect([...statuses.keys()].sort()).toEqual(["fault", "in step"]);
      // Who has a faulty cell is told so, and nobody else but who shares the row with one.
      const faulty = new Set(TRUTH.faults.map(({ student }) => student));
      for (const row of students)
        if (row[at] === "fault") expect(faulty.has(row[0] ?? "")).toBe(true);
      expect(students.find((row) => row[at] === "in step")?.[at + 1]).toMatch(
        /students.*guardians.*\(since \d{4}-\d\d-\d\d\)/,
      );
      expect(
        students
          .flatMap((row) => (row[at] === "fault" ? [row[at + 2]] : []))
          .every((words) => /^Column [A-Z], "/.test(words ?? "")),
      ).toBe(true);
      const again = await readAgain(id, bytes, `autumn-roster.${format}`);
      if (format === "xlsx") expect(again.same).toBe(true);
      expect(again.causes).toBe(0);
    }
  });

  test("tells what has changed and is new, and what a correction reads otherwise", async () => {
    const { body: page } = await juno.ask<{
      reading: { id: string };
      faults: { row: number; column: number; proposal: string | null; answer: string }[];
    }>(
      "GET",
      `/api/readings/${(await juno.ask<SourceLine[]>("GET", "/api/sources")).body[0]?.last?.id}`,
    );
    const fault = page.faults.find(
      ({ answer, proposal }) => answer === "probably" && proposal !== null,
    );
    await juno.ask("POST", "/api/corrections", {
      reading: page.reading.id,
      row: fault?.row,
      column: fault?.column,
      read: fault?.proposal,
    });
    const corrected = Papa.parse<string[]>(new TextDecoder().decode(await handedBack(id, "csv")))
      .data[(fault?.row ?? 1) - 1];
    expect(corrected?.at(-1)).toContain(
      `A correction reads it as ${fault?.proposal}; write it like that here.`,
    );
    await house.read(juno, "autumn-roster-week-2.xlsx", { id });
    const rows = cellsOf(await handedBack(id, "xlsx"), "Roster");
    const status = new Map(
      rows.map((row) => [row.find((cell) => /^CW-\d+$/.test(cell)) ?? "", row.at(-3) ?? ""]),
    );
    for (const { student } of TRUTH.week_two.moved)
      expect(status.get(student)).toMatch(/^changed, waits in round \d+: .* moved from /);
    for (const item of TRUTH.week_two.joined)
      expect(status.get(item.id)).toMatch(/^new, waits in round \d+$/);
  });

  test("is handed to coordinators alone, and only what is there", async () => {
    const ravi = await house.signIn(RAVI);
    expect((await ravi.ask("GET", `/api/sources/${id}/answered/xlsx`)).status).toBe(403);
    expect((await house.client().ask("GET", `/api/sources/${id}/answered/xlsx`)).status).toBe(401);
    expect((await juno.ask("GET", `/api/sources/${id}/answered/pdf`)).status).toBe(404);
    expect(
      (await juno.ask("GET", `/api/sources/${crypto.randomUUID()}/answered/xlsx`)).status,
    ).toBe(404);
  });
});

describe("a file in the watched folder", () => {
  const LINES = [
    "Student no.,Surname,First name,Class,Parent 1,Email 1",
    "CW-9001,Brandt,Ida,Unicycles,Halim Brandt,halim.b@oakmail.example",
    "CW-9002,Holm,Una,Unicycles,Otto Holm,otto at letr.example",
  ];

  test("gets its answers beside it after each reading; the copy is no sheet to read, and what hinders is told", async () => {
    writeFileSync(join(watched, "unicycles.csv"), LINES.join("\r\n"));
    const { source } = await house.readLines(juno, LINES, { name: "Unicycles" });
    const settings = {
      name: "Unicycles",
      kind: "watched",
      location: "unicycles.csv",
      schedule: null,
      mode: "ask",
      limits: {},
      answersBeside: true,
    };
    const version = (
      await juno.ask<{ id: string; version: string }[]>("GET", "/api/sources")
    ).body.find(({ id }) => id === source)?.version;
    expect((await juno.ask("PUT", `/api/sources/${source}`, { ...settings, version })).status).toBe(
      200,
    );
    expect((await juno.ask<{ ok: boolean }>("POST", `/api/sources/${source}/read`)).body.ok).toBe(
      true,
    );
    expect(readdirSync(watched).sort()).toEqual(["unicycles with answers.csv", "unicycles.csv"]);
    const written = readFileSync(join(watched, "unicycles with answers.csv"), "utf8").split("\r\n");
    expect(written[0]).toBe(`${LINES[0]},${ANSWER_TITLES.join(",")}`);
    expect(written[1]).toMatch(/^CW-9001,.*,"?new, waits in round \d+/);
    expect(written[2]?.startsWith(LINES[2] ?? "")).toBe(true);
    expect(
      (await juno.ask<{ files: { name: string }[] }>("GET", "/api/watched")).body.files.map(
        ({ name }) => name,
      ),
    ).toEqual(["unicycles.csv"]);
    rmSync(join(watched, "unicycles with answers.csv"));
    mkdirSync(join(watched, "unicycles with answers.csv", "full"), { recursive: true });
    writeFileSync(
      join(watched, "unicycles.csv"),
      [...LINES, "CW-9003,Quist,Per,Unicycles,Ana Quist,ana@lettr.example"].join("\r\n"),
    );
    const { body } = await juno.ask<{ ok: boolean; outcome: string }>(
      "POST",
      `/api/sources/${source}/read`,
    );
    expect([body.ok, body.outcome]).toEqual([
      true,
      expect.stringContaining("could not be written beside it"),
    ]);
  });
});

describe("answers that a form tool posts", () => {
  const post = async (
    url: string,
    body: BodyInit,
    type?: string,
  ): Promise<{ status: number; body: string }> => {
    const response = await fetch(url, {
      method: "POST",
      body,
      headers: type === undefined ? {} : { "Content-Type": type },
    });
    return { status: response.status, body: await response.text() };
  };
  const json = (url: string, fields: unknown) =>
    post(url, JSON.stringify(fields), "application/json");
  let id = "";
  let url = "";

  test("come to a secret address, as JSON and as form data, the same one once", async () => {
    const made = await juno.ask<{ id: string; url: string }>("POST", "/api/sources/posted", {
      name: "Enrolment form",
    });
    ({ id, url } = made.body);
    expect(
      (
        await house.amigo.context.connection.pool.query(
          "select token_hash from source where id = $1",
          [id],
        )
      ).rows[0].token_hash,
    ).not.toContain(url.split("/").at(-1));
    const first = {
      "Child's first name": "Bartholomea",
      "Child's surname": "Newcomer",
      Class: "Trapeze Two",
      "Your name": "Tove Newcomer",
      contact: { "Email address": "tove.n@brightpost.example" },
      days: ["Mo", "We"],
    };
    expect(await json(url, first)).toEqual({ status: 202, body: '{"received":true}' });
    expect((await json(url, first)).status).toBe(202);
    const form = new FormData();
    for (const [name, value] of [
      ["Child's first name", "Caspian"],
      ["Child's surname", "Latecomer"],
      ["Class", "Trapeze Two"],
      ["Your name", "Ida Latecomer"],
      ["contact.Email address", "ida.l@lettr.example"],
    ])
      form.append(name ?? "", value ?? "");
    expect((await post(url, form)).status).toBe(202);
    expect(
      (await juno.ask<SourceLine[]>("GET", "/api/sources")).body.find(
        (candidate) => candidate.id === id,
      ),
    ).toMatchObject({ posted: 2, last: null });
  });

  test("are looked at once, by columns that are learnt from them, and read by themselves from then on", async () => {
    const look = await juno.ask<{ base64: string }>("POST", "/api/sources/look", {
      kind: "posted",
      location: id,
    });
    const bytes = new Uint8Array(Buffer.from(look.body.base64, "base64"));
    const plan = proposedPlan(bytes);
    expect(plan.columns.map(({ title, meaning }) => [title, meaning])).toEqual([
      ["Answered", "answered"],
      ["Child's first name", "student.given"],
      ["Child's surname", "student.surname"],
      ["Class", "classes"],
      ["Your name", "guardian.name"],
      ["contact.Email address", "guardian.address"],
      ["days", "unread"],
    ]);
    const form = new FormData();
    form.set("file", new File([bytes], "answers.csv"));
    form.set("plan", JSON.stringify(plan));
    expect((await juno.ask<ReadAnswer>("POST", `/api/sources/${id}/readings`, form)).status).toBe(
      200,
    );
    await json(url, {
      "Child's first name": "Dagny",
      "Child's surname": "Third",
      Class: "Wire Walk",
      "Your name": "Una Third",
      "contact.Email address": "una.third@lettr.example",
      "new field": "x",
    });
    await readThrough(3);
  }, 120_000);

  test("are not forgotten when one comes while the others are being read", async () => {
    const { db, connection } = house.amigo.context;
    const reading = await db.transaction(async (tx) => {
      await lockRounds(tx);
      await json(url, {
        "Child's first name": "Ebba",
        "Child's surname": "Fourth",
        Class: "Wire Walk",
      });
      const asked = juno.ask<{ outcome: string }>("POST", `/api/sources/${id}/read`);
      await until(
        "the reading to wait for its turn",
        async () =>
          (
            await connection.pool.query<{ waiting: number }>(
              "select count(*)::int as waiting from pg_locks where locktype = 'advisory' and not granted",
            )
          ).rows[0]?.waiting ?? 0,
        (waiting) => waiting > 0,
      );
      await json(url, {
        "Child's first name": "Falk",
        "Child's surname": "Fifth",
        Class: "Wire Walk",
      });
      return { asked };
    });
    expect((await reading.asked).status).toBe(200);
    await readThrough(5);
  }, 120_000);

  async function readThrough(rows: number): Promise<void> {
    await until(
      `${rows} answers to be read, with nothing left to read`,
      async () => {
        const line = (await juno.ask<SourceLine[]>("GET", "/api/sources")).body.find(
          (candidate) => candidate.id === id,
        );
        return [line?.last?.rows, line?.failures, line?.nextAt];
      },
      ([read, failures, nextAt]) => read === rows && failures === 0 && nextAt === null,
      90_000,
    );
  }

  test("are refused in a sentence where they are none, too large, or at no address; and a new address ends the old one", async () => {
    const refused = async (
      answer: Promise<{ status: number; body: string }>,
    ): Promise<[number, string]> => {
      const { status, body } = await answer;
      return [status, (JSON.parse(body) as { detail: string }).detail];
    };
    expect(await refused(json(url, [1, 2]))).toEqual([
      400,
      expect.stringContaining("one JSON object"),
    ]);
    expect(await refused(post(url, "{broken", "application/json"))).toEqual([
      400,
      expect.stringContaining("one JSON object"),
    ]);
    expect(await refused(json(url, {}))).toEqual([400, "This answer has no fields."]);
    expect(
      await refused(
        json(url, Object.fromEntries(Array.from({ length: 101 }, (_, at) => [`f${at}`, "x"]))),
      ),
    ).toEqual([400, expect.stringContaining("the limit is 100")]);
    expect((await json(`${house.url}/in/nothing`, { a: "b" })).status).toBe(404);
    const { body } = await juno.ask<{ url: string }>("POST", `/api/sources/${id}/address`);
    expect((await json(url, { a: "b" })).status).toBe(404);
    expect(
      (
        await json(body.url, {
          "Child's first name": '=HYPERLINK("x")',
          "Child's surname": "\u0000\r\nEvil",
        })
      ).status,
    ).toBe(202);
    const kept = await house.amigo.context.connection.pool.query(
      "select fields from posted_answer where source_id = $1 order by number desc limit 1",
      [id],
    );
    expect(kept.rows[0].fields).toEqual([
      ["Child's first name", '=HYPERLINK("x")'],
      ["Child's surname", "Evil"],
    ]);
    // The port is closed on whoever sends too much, so this comes last.
    expect(await refused(json(body.url, { a: "x".repeat(300_000) }))).toEqual([
      413,
      expect.stringContaining("200 kB"),
    ]);
  });
});
