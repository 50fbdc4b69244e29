import { setUpCode } from "./setUpCode";
import { afterAll, beforeAll, expect, test } from "vitest";
import { loadDemo } from "@amigo/demo/loadDemo";
import { startTestHouse, type TestHouse } from "../testing/testHouse";

let house: TestHouse;

beforeAll(async () => {
  house = await startTestHouse({ demo: false, roles: "web" });
});
afterAll(() => house.close());

const WANTED = {
  house: "Copperwheel Circus School",
  insideDomain: "copperwheel.example",
  listDomain: "lists.copperwheel.example",
  season: "2026-27",
  name: "Juno Abara",
  email: "Juno.Abara@copperwheel.example",
  password: "a long password",
};

test("from another machine an empty house is set up only with the code that was printed at its start", async () => {
  const far = { "X-Forwarded-For": "192.0.2.7" };
  const start = async (headers = {}) =>
    (await house.client().ask<{ needsCode: boolean }>("GET", "/api/start", undefined, headers)).body
      .needsCode;
  expect([await start(), await start(far)]).toEqual([false, true]);
  for (const code of ["", "ABCD-EFGH-JKMN"]) {
    const { status, body } = await house
      .client()
      .ask<{ field: string }>("POST", "/api/set-up", { ...WANTED, code }, far);
    expect([status, body.field]).toEqual([403, "code"]);
  }
  expect(setUpCode(house.amigo.context.houseKey)).toMatch(/^[A-Z2-9]{4}-[A-Z2-9]{4}-[A-Z2-9]{4}$/);
  // With the code the next fault is looked at.
  const { status, body } = await house
    .client()
    .ask<{ field: string }>(
      "POST",
      "/api/set-up",
      { ...WANTED, password: "password123", code: setUpCode(house.amigo.context.houseKey) },
      far,
    );
  expect([status, body.field]).toEqual([400, "password"]);
});

test("an empty house is set up once, by its first page, and by nobody a second time", async () => {
  const juno = house.client();
  expect((await juno.ask<{ setUp: boolean }>("GET", "/api/start")).body.setUp).toBe(false);
  const wrong = await juno.ask<{ detail: string; field: string }>("POST", "/api/set-up", {
    ...WANTED,
    season: "this year",
  });
  expect([wrong.status, wrong.body.field]).toEqual([400, "season"]);
  expect(wrong.body.detail).toContain("2026-27");
  const both = await Promise.all([
    house.client().ask("POST", "/api/set-up", WANTED),
    juno.ask("POST", "/api/set-up", { ...WANTED, email: "other@copperwheel.example" }),
  ]);
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
});

test("its coordinator signs in with the password; one click is only for the demo house", async () => {
  const { body } = await house
    .client()
    .ask<{ setUp: boolean; demoAccounts: unknown[] }>("GET", "/api/start");
  expect(body).toMatchObject({ setUp: true, demoAccounts: [] });
  const rows = await house.amigo.context.connection.pool.query<{
    email: string;
    password_hash: string;
  }>("select email, password_hash from account");
  const email = rows.rows[0]?.email ?? "";
  expect(rows.rows[0]?.password_hash).toMatch(/^\$argon2id\$/);
  expect((await house.client().ask("POST", "/api/sign-in/demo", { email })).status).toBe(403);
  const juno = house.client();
  expect(
    (await juno.ask("POST", "/api/sign-in", { email, password: WANTED.password })).status,
  ).toBe(200);
  expect((await juno.ask<{ role: string; demo: boolean }>("GET", "/api/me")).body).toMatchObject({
    role: "coordinator",
    demo: false,
  });
});

test("the demo house never lands on a house that is there", async () => {
  expect(await loadDemo(house.amigo.context.db)).toBe(false);
});
