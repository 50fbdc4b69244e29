import { request } from "node:http";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import {
  JUNO,
  proposedPlan,
  startTestHouse,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { parseJson } from "./parseJson";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const post = (path: string, body: string, type = "application/json"): Promise<Response> =>
  fetch(`${house.url}${path}`, {
    method: "POST",
    headers: { "Content-Type": type, Connection: "close" },
    body,
  });

/** A body whose length is not told beforehand. */
const postInPieces = (path: string, pieces: number): Promise<number> =>
  new Promise((resolve, reject) => {
    const asked = request(
      `${house.url}${path}`,
      { method: "POST", headers: { "Content-Type": "application/json" } },
      (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
      },
    );
    asked.on("error", reject);
    for (let piece = 0; piece < pieces; piece++) asked.write("x".repeat(1024));
    asked.end();
  });

describe("a body", () => {
  const large = "x".repeat(70 * 1024);
  test.each([
    "/api/sign-in",
    "/api/member/enter",
    "/held/x",
    "/leave/x",
    "/mine/x",
    "/yes/x",
    "/f/x",
    "/f/x/check",
    "/anywhere",
  ])("of more than 64 kB is refused at %s", async (path) => {
    expect((await post(path, large)).status).toBe(413);
    expect((await post(path, large, "application/x-www-form-urlencoded")).status).toBe(413);
    expect(await postInPieces(path, 80)).toBe(413);
  });

  test("of an answer that a form tool posts may have 200 kB", async () => {
    expect((await post("/in/none", large)).status).toBe(404);
    expect((await post("/in/none", large.repeat(4))).status).toBe(413);
  });

  test("nested deeper than 32 is refused before it is parsed", async () => {
    const nested = (depth: number): string => `${"[".repeat(depth)}${"]".repeat(depth)}`;
    expect(parseJson(nested(32))).toBeDefined();
    expect(parseJson(nested(33))).toBeUndefined();
    expect(parseJson(`{"a":"${"[".repeat(100)}"}`)).toEqual({ a: "[".repeat(100) });
    expect(parseJson(`{"a":"\\"${"[".repeat(100)}"}`)).toEqual({ a: `"${"[".repeat(100)}` });
    const answer = await post("/api/sign-in", nested(10_000));
    expect(answer.status).toBe(400);
    expect(((await answer.json()) as { detail: string }).detail).toContain("32 levels deep");
  });
});

describe("text that the database can't keep is refused in a sentence", () => {
  const asked: [string, string, string, unknown?][] = [
    ["a value", "PUT", "/api/watch", { changes: "x\u0000" }],
    ["half a character", "POST", "/api/requests", { list: "\ud800", wanted: "x", why: "x" }],
    ["a name", "POST", "/api/requests", { "li\u0000st": "x" }],
    ["a sign-in", "POST", "/api/sign-in", { email: "a\u0000@b.example", password: "x" }],
    ["a query", "GET", "/api/find?q=a%00b"],
    ["a path", "GET", "/api/people/a%00b"],
    ["a search", "GET", "/api/journal?q=%00"],
  ];
  test.each(asked)("in %s", async (_, method, path, body) => {
    const { status } = await juno.ask(method, path, body);
    expect(status).toBe(400);
  });

  test("in a form with a file", async () => {
    const bytes = new TextEncoder().encode("Surname,First name,Class\nHolm,Una,Wire Walk\n");
    const form = new FormData();
    form.set("file", new File([bytes], "roster.csv"));
    form.set("name", "Office\u0000");
    form.set("plan", JSON.stringify(proposedPlan(bytes)));
    expect((await juno.ask("POST", "/api/sources", form)).status).toBe(400);
  });

  test("but in the cells of a sheet it is left out, as nobody sees it", async () => {
    const filler = Array.from(
      { length: 200 },
      (_, at) => `Holm,Una${at},Wire Walk,una${at}@lettr.example`,
    );
    const { students } = await house
      .readLines(
        juno,
        [
          "Surname,First name,Class,Parent email",
          ...filler,
          "Qu\u0000ist,Bram,Wire Walk,ana@lettr.example",
        ],
        { name: "With NUL" },
      )
      .then((read) => read as unknown as { students: number });
    expect(students).toBe(201);
    const { rows } = await house.amigo.context.connection.pool.query(
      "select 1 from reading_row where 'Quist' = any(cells)",
    );
    expect(rows).toHaveLength(1);
  });

  test("in a form outside the API", async () => {
    const form = new URLSearchParams({ decision: "out", word: "a\u0000b" }).toString();
    expect((await post("/held/x", form, "application/x-www-form-urlencoded")).status).toBe(400);
  });
});

test.each([
  "/leave/x",
  "/mine/x",
  "/held/x",
  "/yes/x",
  "/f/mine/x",
  "/f/second/x",
  "/api/me",
  "/",
  "/member/x",
])("%s is kept by no browser and no proxy", async (path) => {
  expect((await fetch(`${house.url}${path}`)).headers.get("Cache-Control")).toBe("no-store");
});

describe("a value that its shape refuses", () => {
  const token = { name: "nightly", scopes: ["read lists"], lastDay: "2099-01-01" };
  test.each([
    [{ name: " " }, "Give the token a name.", "name"],
    [{ scopes: [] }, "Choose what the token may do.", "scopes"],
    [{ lastDay: "soon" }, "Give the last day on which the token works.", "lastDay"],
  ])("%j is told in a sentence of its own", async (wrong, detail, field) => {
    const { status, body } = await juno.ask<{ detail: string; field: string }>(
      "POST",
      "/api/tokens",
      { ...token, ...wrong },
    );
    expect([status, body.detail, body.field]).toEqual([400, detail, field]);
  });

  test("is named with its field where there is no such sentence", async () => {
    const { body } = await juno.ask<{ detail: string }>("POST", "/api/tokens", {
      ...token,
      name: "x".repeat(81),
    });
    expect(body.detail).toBe("name: at most 80 characters");
  });
});

test.each([
  "/api/rounds/999999999999",
  "/api/rounds/1/causes/4294967296",
  "/api/rounds/-1",
  "/api/rounds?before=1e300",
  "/api/journal?before=99999999999999999999",
  "/api/people?from=2147483648",
])("a number that counts no row is refused before the database is asked: %s", async (path) => {
  const answer = await juno.ask<{ type: string; detail: string }>("GET", path);
  expect(answer.status).toBe(400);
  expect(answer.body.type).toBe("urn:amigo:fault:bad-request");
});
