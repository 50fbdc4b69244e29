import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { Push } from "@amigo/contract/push";
import { startPushStandIn, type PushStandIn } from "../testing/pushStandIn";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { tellDevices } from "./tellDevices";

let service: PushStandIn;
let house: TestHouse;
let juno: Client;
let ravi: Client;
let source = "";
let list = { id: "", name: "" };

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const row = (at: number): string =>
  `CW-${at},Holm,Child${at},Mill Loft,Wire Walk,Ravi Lindqvist,Otto Holm${at},otto${at}@lettr.example`;
const rows = (count: number): string[] => [
  HEAD,
  ...Array.from({ length: count }, (_, at) => row(at + 1)),
];

beforeAll(async () => {
  service = await startPushStandIn();
  // The jobs are done by these tests themselves.
  house = await startTestHouse({
    roles: "web,mail",
    settings: { AMIGO_ALLOWED_HOSTS: service.host },
  });
  [juno, ravi] = [await house.signIn(JUNO), await house.signIn(RAVI)];
  ({ source } = await house.readLines(juno, rows(12), { name: "Roster" }));
  await house.step(juno);
  const { body } = await juno.ask<{ id: string; name: string }[]>(
    "GET",
    "/api/lists?q=wire walk guardians",
  );
  list = body[0] ?? list;
});
afterAll(async () => {
  await house.close();
  await service.close();
});
beforeEach(async () => {
  await house.amigo.context.db.execute(sql`delete from push_device`);
  await house.amigo.context.db.execute(sql`delete from push_choice`);
  await house.amigo.context.db.execute(sql`delete from push_told`);
  service.messages.length = 0;
  service.answer = 201;
});

const tell = () => tellDevices(house.amigo.context);
const turnOn = async (client: Client): Promise<string> => {
  const { status, body } = await client.ask<{ id: string }>(
    "POST",
    "/api/account/push/devices",
    service.device(),
  );
  expect(status).toBe(200);
  return body.id;
};
const mine = async (client: Client): Promise<Push> =>
  (await client.ask<Push>("GET", "/api/account/push")).body;
const holdOne = async (subject: string): Promise<void> => {
  const { db } = house.amigo.context;
  await db.execute(sql`
    with mail as (insert into message (raw, size, message_id) values (''::bytea, 0, ${`<${crypto.randomUUID()}@x.example>`}) returning id),
      made as (insert into post (message_id, subject, from_name, from_address, outcome, reasons, reaches)
        select id, ${subject}, 'Otto Holm', 'otto1@lettr.example', 'held', '{}', 'members' from mail returning id)
    insert into post_list (post_id, list_id) select id, ${list.id} from made`);
};

describe("a notice on a device", () => {
  test("is encrypted for the device alone, signed by the school, and says how long it is kept", async () => {
    const id = await turnOn(ravi);
    expect((await ravi.ask("POST", `/api/account/push/devices/${id}/test`)).status).toBe(200);
    const [message] = service.messages;
    expect(message?.body).toMatchObject({ title: "This is a test", tag: "test" });
    expect(message?.octets.toString("latin1")).not.toContain("test");
    expect(message?.headers).toMatchObject({ "content-encoding": "aes128gcm", ttl: "86400" });
    expect(message?.sender).toMatchObject({
      aud: `http://${service.host}`,
      sub: "mailto:postmaster@lists.copperwheel.example",
    });
    expect(message?.headers.authorization).toContain((await mine(ravi)).key);
  });

  test("tells whoever decides on a held mail, once, with the list and never with names of people", async () => {
    await holdOne("Before anybody was told anything");
    await turnOn(ravi);
    expect(await tell()).toBe(0);
    await holdOne("Lost shoe of Child1");
    await holdOne("Another");
    expect((await Promise.all([tell(), tell()])).sort()).toEqual([0, 1]);
    expect(service.messages.map(({ body }) => body)).toEqual([
      {
        title: "2 mails wait for your decision",
        body: "Wire Walk, guardians",
        url: expect.stringMatching(/\/mail\/held$/),
        tag: "held mail",
      },
    ]);
    expect(JSON.stringify(service.messages[0]?.body)).not.toMatch(/Otto|Child1|shoe/);
    expect(await tell()).toBe(0);
    // The list has a lead, so coordinators aren't asked to decide.
    await turnOn(juno);
    await holdOne("A third");
    expect(await tell()).toBe(1);
  });

  test("is of what its owner chose alone", async () => {
    await turnOn(ravi);
    expect((await mine(ravi)).topics).toEqual(["held mail", "request", "safety check", "address"]);
    await ravi.ask("PUT", "/api/account/push/topics", { topics: ["address"] });
    await holdOne("Nobody is told");
    expect(await tell()).toBe(0);
  });

  test("tells of requests whoever decides on them, but not who made them", async () => {
    const { db } = house.amigo.context;
    await turnOn(juno);
    await turnOn(ravi);
    await db.execute(sql`
      insert into request (account_id, list, title, rule, wanted, sentence, why, work)
      select id, 'key', 'Wire Walk, guardians', 'writers', 'members', 'x', 'y', '{}'::jsonb from account where email = ${RAVI}`);
    await tell();
    expect(service.messages.map(({ body }) => [body.title, body.body])).toEqual([
      ["A request waits for you", "Wire Walk, guardians"],
    ]);
  });

  test("tells coordinators of safety checks that stop a round, and of those alone that are new", async () => {
    await turnOn(juno);
    const odile = await house.signIn(ODILE);
    await turnOn(odile);
    await tell();
    await house.readLines(juno, rows(2), { id: source });
    const guards = (await juno.ask<{ guards: unknown[] }>("GET", "/api/rounds/open")).body.guards;
    expect(guards.length).toBeGreaterThan(0);
    await tell();
    expect(service.messages.map(({ body }) => body.tag)).toEqual(["safety check"]);
    // Somebody who begins now has seen them on the page.
    await turnOn(juno);
    await juno.ask("PUT", "/api/account/push/topics", { topics: ["safety check"] });
    expect(await tell()).toBe(0);
  });

  test("tells of an address that mail no longer reaches within what somebody may know, without the address", async () => {
    const { db } = house.amigo.context;
    const odile = await house.signIn(ODILE);
    await turnOn(odile);
    await turnOn(ravi);
    await db.execute(sql`
      insert into address_trouble (address, state, sort, words) values
        ('otto1@lettr.example', 'stopped', 'gone', ''), ('nobody@lettr.example', 'stopped', 'gone', '')`);
    await tell();
    expect(service.messages.map(({ body }) => [body.title, body.body])).toEqual([
      ["Mail to an address has stopped", ""],
    ]);
    const told = await db.execute<{ mark: string }>(sql`select mark from push_told`);
    expect(JSON.stringify(told.rows)).not.toContain("otto1");
    await db.execute(sql`delete from address_trouble`);
  });
});

describe("devices", () => {
  test("that are gone are removed, and those that don't answer are tried again", async () => {
    await turnOn(ravi);
    service.answer = 503;
    await holdOne("While the service is away");
    expect(await tell()).toBe(0);
    expect((await mine(ravi)).devices).toMatchObject([{ failing: true }]);
    service.answer = 201;
    expect(await tell()).toBe(1);
    expect((await mine(ravi)).devices).toMatchObject([{ failing: false }]);
    service.answer = 410;
    await holdOne("After it was uninstalled");
    await tell();
    expect((await mine(ravi)).devices).toEqual([]);
  });

  test("are their owner's alone", async () => {
    const id = await turnOn(ravi);
    expect((await mine(juno)).devices).toEqual([]);
    expect((await juno.ask("DELETE", `/api/account/push/devices/${id}`)).status).toBe(404);
    expect((await juno.ask("POST", `/api/account/push/devices/${id}/test`)).status).toBe(404);
    expect((await ravi.ask("DELETE", `/api/account/push/devices/${id}`)).status).toBe(200);
    expect((await mine(ravi)).devices).toEqual([]);
  });

  test("at addresses inside the own network are never written to, and at most ten are kept", async () => {
    const { keys } = service.device();
    for (const [endpoint, status] of [
      ["http://push.example/x", 422],
      ["ftp://push.example/x", 400],
      ["file:///etc/passwd", 400],
      ["not an address", 400],
    ] as const)
      expect(
        (await ravi.ask("POST", "/api/account/push/devices", { endpoint, keys })).status,
        endpoint,
      ).toBe(status);
    const inside = await ravi.ask<{ id: string }>("POST", "/api/account/push/devices", {
      ...{ endpoint: "https://127.0.0.1:9/x", keys },
    });
    expect(
      (await ravi.ask("POST", `/api/account/push/devices/${inside.body.id}/test`)).status,
    ).toBe(422);
    expect((await mine(ravi)).devices).toEqual([]);
    const answers = [];
    for (let at = 0; at < 11; at++)
      answers.push((await ravi.ask("POST", "/api/account/push/devices", service.device())).status);
    expect(answers).toEqual([...Array<number>(10).fill(200), 409]);
  });

  test("with keys that are none are refused", async () => {
    const { endpoint, keys } = service.device();
    for (const wrong of [
      { p256dh: "AAAA", auth: keys.auth },
      { p256dh: keys.p256dh, auth: "" },
      { p256dh: `${keys.p256dh}=<>`, auth: keys.auth },
    ])
      expect(
        (await ravi.ask("POST", "/api/account/push/devices", { endpoint, keys: wrong })).status,
      ).toBe(400);
    // A point that isn't on the curve passes as octets, and can't be written to.
    const odd = await ravi.ask<{ id: string }>("POST", "/api/account/push/devices", {
      endpoint,
      keys: { ...keys, p256dh: Buffer.alloc(65, 4).toString("base64url") },
    });
    expect(odd.status).toBe(200);
    await holdOne("To a device that isn't one");
    expect(await tell()).toBe(0);
    expect((await mine(ravi)).devices).toEqual([]);
  });

  test("of an account that has ended hear nothing", async () => {
    await turnOn(ravi);
    const { db } = house.amigo.context;
    await db.execute(
      sql`update account set ended_at = now() - interval '1 day' where email = ${RAVI}`,
    );
    await holdOne("After the end");
    expect(await tell()).toBe(0);
    await db.execute(sql`update account set ended_at = null where email = ${RAVI}`);
  });

  test("are told by the worker by itself as soon as a mail is held", async () => {
    const worker = await startTestHouse({ settings: { AMIGO_ALLOWED_HOSTS: service.host } });
    try {
      const client = await worker.signIn(JUNO);
      await worker.readLines(client, [HEAD, row(1).replace("Ravi Lindqvist", "")], {
        name: "Roster",
      });
      await worker.step(client);
      expect((await client.ask("POST", "/api/account/push/devices", service.device())).status).toBe(
        200,
      );
      const { body } = await client.ask<{ id: string; name: string }[]>(
        "GET",
        "/api/lists?q=wire walk guardians",
      );
      const to = body[0];
      await worker.amigo.context.db.execute(
        sql`update list set rules = rules || '{"writers":"members","other":"held"}'::jsonb where id = ${to?.id}`,
      );
      await worker
        .mail({
          from: "stranger@elsewhere.example",
          to: `${to?.name}@lists.copperwheel.example`,
          subject: "May I?",
        })
        .catch(() => undefined);
      await until(
        "a notice of held mail",
        () => service.messages.map(({ body: said }) => said.tag),
        (tags) => tags.includes("held mail"),
      );
    } finally {
      await worker.close();
    }
  });
});
