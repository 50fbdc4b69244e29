import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Pulse } from "@amigo/contract/house";
import type { MailHouse } from "@amigo/contract/mail";
import { RelayUnreachable } from "../relay/relayConnection";
import { RelayGate } from "../relay/relayGate";
import { relayAway } from "../relay/relayAway";
import { startSink, type Sink } from "../testing/sink";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

let house: TestHouse;
let juno: Client;
let relay: Sink;
let listId = "";
let members = 0;

beforeAll(async () => {
  relay = await startSink();
  house = await startTestHouse({ settings: { AMIGO_RELAY: `smtp://127.0.0.1:${relay.port}` } });
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  await house.amigo.context.db.execute(
    sql`update list set rules = rules || '{"perDay": "500"}'::jsonb where id = ${listId}`,
  );
});
afterAll(async () => {
  relay.take = () => Promise.resolve();
  await house.close();
  await relay.close();
});

const write = async (subject: string): Promise<number> =>
  (
    await juno.ask<{ addresses: number }>("POST", "/api/posts", {
      lists: [listId],
      subject,
      text: "Dear families.",
      key: crypto.randomUUID(),
    })
  ).body.addresses;
const copies = (subject: string) =>
  relay.mails.filter(({ raw }) => raw.includes(`Subject: ${subject}\r\n`));
const states = async () =>
  (
    await house.amigo.context.db.execute<{ state: string; attempts: number; reply: string }>(
      sql`select state, attempts, reply from delivery where post_id is not null order by id`,
    )
  ).rows;

test("while the relay is away everybody can see since when and why, and everything leaves at once when it is back", async () => {
  members = await write("Before");
  await until(
    "all copies",
    () => copies("Before"),
    (mails) => mails.length === members,
  );
  const { port } = relay;
  await relay.close();
  await write("Meanwhile");
  const pulse = await until(
    "the pulse",
    async () => (await juno.ask<Pulse>("GET", "/api/pulse")).body,
    (body) => body.relayAway !== null,
  );
  expect(pulse.relayAway).toMatchObject({
    relay: `127.0.0.1:${port}`,
    words: expect.stringMatching(/ECONNREFUSED/),
  });
  const { body: settings } = await juno.ask<MailHouse>("GET", "/api/mail");
  expect(settings.queue.relayAway?.words).toMatch(/ECONNREFUSED/);
  const ravi = await house.signIn(RAVI);
  expect((await ravi.ask<Pulse>("GET", "/api/pulse")).body.relayAway).toBeNull();
  relay = await startSink(port);
  await until(
    "all copies",
    () => copies("Meanwhile"),
    (mails) => mails.length === members,
  );
  await until(
    "the pulse to be quiet",
    async () => (await juno.ask<Pulse>("GET", "/api/pulse")).body,
    (body) => body.relayAway === null,
  );
});

test("an idle relay is asked, too, and one that is only busy is not away", async () => {
  const away = () => relayAway(house.amigo.context.db, house.amigo.context.settings);
  const { port } = relay;
  await relay.close();
  let back = 0;
  const gate = new RelayGate(house.amigo.context, () => back++, {
    tries: [20],
    fresh: 10_000,
    idleCheck: 40,
  });
  await until("the gate to find out", away, (found) => found !== null);
  expect(gate.isAway).toBe(true);
  relay = await startSink(port);
  await until("the gate to see it", away, (found) => found === null);
  expect([gate.isAway, back]).toEqual([false, 1]);
  const busy = new RelayUnreachable(Object.assign(new Error("421 busy"), { responseCode: 421 }));
  expect([gate.failed(busy), gate.isAway]).toEqual([false, false]);
  gate.close();
});

test("a sign-in link goes before whatever waits", async () => {
  let permits = 0;
  const waiting: (() => void)[] = [];
  const permit = (): void => {
    const next = waiting.shift();
    if (next === undefined) permits++;
    else next();
  };
  relay.take = () =>
    new Promise((resolve) => {
      if (permits > 0) {
        permits--;
        resolve();
      } else waiting.push(resolve);
    });
  relay.mails.length = 0;
  for (const subject of ["One", "Two", "Three", "Four", "Five", "Six"]) await write(subject);
  const { connections } = house.amigo.context.settings;
  await until(
    "all connections to be busy",
    () => waiting.length,
    (count) => count === connections,
  );
  await until(
    "as much claimed as is claimed ahead",
    states,
    (rows) => rows.filter(({ state }) => state === "sending").length >= connections * 20,
  );
  const before = relay.mails.length;
  await house.client().ask("POST", "/api/sign-in/link", { email: RAVI, what: "sign-in" });
  await until(
    "the link to be claimed",
    () =>
      house.amigo.context.db.execute(
        sql`select 1 from delivery where address = ${RAVI} and priority = 1 and state = 'sending'`,
      ),
    ({ rows }) => rows.length === 1,
  );
  const link = () =>
    relay.mails.findIndex(({ to, raw }) => to === RAVI && raw.includes("Subject: Sign in"));
  // Each connection has one copy on the wire and one made ready; the link is the next.
  for (let given = 0; given < connections * 3 && link() < 0; given++) {
    const taken = relay.mails.length;
    permit();
    await until(
      "the next mail",
      () => relay.mails.length,
      (count) => count > taken || link() >= 0,
    );
    await until(
      "the next to come",
      () => waiting.length,
      (count) => count === connections,
    );
  }
  expect(link()).toBeGreaterThanOrEqual(before);
  expect(link() - before).toBeLessThanOrEqual(connections * 2);
  relay.take = () => Promise.resolve();
  for (const next of waiting.splice(0)) next();
});
