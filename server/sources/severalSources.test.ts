import { afterAll, beforeAll, expect, test } from "vitest";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { TRUTH } from "../testing/truth";
import { openRoundOf, type WholeRound } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(() => house.close());

async function readAndLook(file: string): Promise<WholeRound | null> {
  const { status } = await house.read(juno, file);
  expect(status).toBe(200);
  return await openRoundOf(juno);
}

test("form responses beside the roster change just the addresses that were answered again", async () => {
  const round = await readAndLook("contact-form.csv");
  const again = TRUTH.answered_again.map(({ guardian }) => guardian).sort();
  expect(round?.causes.map(({ kind, title }) => `${kind} ${title}`).sort()).toEqual(
    again.map((name) => `address ${name}`),
  );
  await house.step(juno);
});

test("another office's list of contacts, that says the same, opens no round", async () => {
  expect(await readAndLook("contacts-utf16.tsv")).toBeNull();
});

test("a coach's sheet puts the students it names into teams, and adds nobody", async () => {
  const round = await readAndLook("troupes.ods");
  const kinds = (kind: string): number =>
    round?.causes.filter((cause) => cause.kind === kind).length ?? 0;
  expect([kinds("cohort"), kinds("joined"), kinds("left"), kinds("address")]).toEqual([3, 0, 0, 0]);
  expect(kinds("moved")).toBe(TRUTH.students.filter(({ teams }) => teams.length > 0).length);
  expect(round?.totals).toMatchObject({ leaves: 0, lists: 6 });
  await house.step(juno);
  expect((await juno.ask("GET", "/api/rounds/open")).body).toBeNull();
});
