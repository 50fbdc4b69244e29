import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Pulse } from "@amigo/contract/house";
import type { Reach } from "@amigo/contract/mail";
import {
  JUNO,
  ODILE,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const DOMAINS = ["lettr.example", "oakmail.example", "fernpost.example"];
/** 24 families at three domains, and four at a fourth. */
const ADDRESSES = [
  ...Array.from({ length: 24 }, (_, at) => `g${at}@${DOMAINS[at % 3] ?? ""}`),
  ...Array.from({ length: 4 }, (_, at) => `b${at}@brightpost.example`),
];

let house: TestHouse;
let juno: Client;
let listId = "";

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.readLines(
    juno,
    [
      HEAD,
      ...ADDRESSES.map(
        (address, at) =>
          `CW-${at},Name${at},Child${at},Mill Loft,Wire Walk,Teo Bramwell,Parent Name${at},${address}`,
      ),
    ],
    { name: "Roster" },
  );
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
});
afterAll(() => house.close());

const write = async (subject: string): Promise<void> => {
  await juno.ask("POST", "/api/posts", {
    lists: [listId],
    subject,
    text: "Dear families.",
    key: crypto.randomUUID(),
  });
  await until(
    "every copy to be over",
    async () =>
      (
        await house.amigo.context.db.execute<{ count: number }>(
          sql`select count(*)::int as count from delivery where state in ('queued', 'sending', 'deferred')`,
        )
      ).rows[0]?.count,
    (count) => count === 0,
  );
};
const stopped = async (): Promise<number> =>
  (
    await house.amigo.context.db.execute<{ count: number }>(
      sql`select count(*)::int as count from address_trouble where state = 'stopped'`,
    )
  ).rows[0]?.count ?? -1;
const brakes = async (): Promise<Reach["brakes"]> =>
  (await juno.ask<Reach>("GET", "/api/reach")).body.brakes;
const unknown = { code: 550, words: "5.1.1 no such user here" };

test("a few wrong addresses are stopped, as before", async () => {
  house.sink.refuse = (address) => (address.startsWith("b") ? unknown : undefined);
  await write("Four of four");
  expect([await stopped(), await brakes()]).toEqual([4, []]);
  await house.amigo.context.db.execute(sql`delete from address_trouble`);
  await house.amigo.context.db.execute(sql`delete from bounce`);
});

test("a mail domain that refuses everybody stops nobody until a coordinator decides, and one step resumes all", async () => {
  house.sink.refuse = (address) => (address.endsWith("lettr.example") ? unknown : undefined);
  await write("To all");
  expect(await stopped()).toBe(0);
  const [brake, ...others] = await brakes();
  expect(others).toEqual([]);
  expect(brake).toMatchObject({ scope: "domain", about: "lettr.example", addresses: 8 });
  expect(brake?.words).toContain("no such user here");
  expect((await juno.ask<Pulse>("GET", "/api/pulse")).body.failedAtOnce).toBe(8);
  const odile = await house.signIn(ODILE);
  expect((await odile.ask<Reach>("GET", "/api/reach")).body.brakes).toEqual([]);
  const path = `/api/reach/brakes/${brake?.id ?? ""}`;
  expect((await odile.ask("POST", path, { decision: "resume" })).status).toBe(403);
  expect(await juno.ask("POST", path, { decision: "resume" })).toMatchObject({
    status: 200,
    body: { addresses: 8 },
  });
  expect((await juno.ask("POST", path, { decision: "stop" })).status).toBe(409);
  const { body } = await juno.ask<Reach>("GET", "/api/reach");
  expect([body.troubles, body.brakes]).toEqual([[], []]);
  house.sink.refuse = () => undefined;
  house.sink.mails.length = 0;
  await write("Once more");
  expect(house.sink.mails.filter(({ raw }) => raw.includes("Subject: Once more"))).toHaveLength(
    ADDRESSES.length,
  );
});

test("a relay that refuses every address of a list stops nobody, whatever their domains, and all can be stopped in one step", async () => {
  const wrong = new Set(ADDRESSES.filter((_, at) => at % 2 === 0));
  house.sink.refuse = (address) => (wrong.has(address) ? unknown : undefined);
  await write("Every second");
  expect(await stopped()).toBe(0);
  const open = await brakes();
  expect(open.reduce((sum, { addresses }) => sum + addresses, 0)).toBe(wrong.size);
  for (const { id } of open)
    expect((await juno.ask("POST", `/api/reach/brakes/${id}`, { decision: "stop" })).status).toBe(
      200,
    );
  expect(await stopped()).toBe(wrong.size);
});
