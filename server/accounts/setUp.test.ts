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
  expect(rows.rows[0]?.password_hash).toMatch(/^scrypt\$/);
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
