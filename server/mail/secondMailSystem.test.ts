import { existsSync, readFileSync } from "node:fs";
import { sql } from "drizzle-orm";
import { authenticate } from "mailauth";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Reach } from "@amigo/contract/mail";
import type { PostPage } from "@amigo/contract/posts";
import type { MailSystem } from "../testing/mailSystem";
import { openZone } from "../testing/openZone";
import { startSecondMailSystem } from "../testing/secondMailSystem";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";

const at = (name: string): string => `${name}@fernpost.example`;
const KEPT = ["ida.kept", "jon.kept"].map(at);

let system: MailSystem;
let house: TestHouse;
let juno: Client;
let listId = "";

beforeAll(async () => {
  system = await startSecondMailSystem();
  house = await startTestHouse({ settings: { AMIGO_RELAY: `smtp://127.0.0.1:${system.port}` } });
  system.knowHouse(house.amigo.context.settings.smtpPort);
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  const { body: lists } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians");
  listId = lists[0]?.id ?? "";
  await run(sql`update membership set valid_until = now() where list_id = ${listId}`);
  for (const address of [...KEPT, ...["gone", "full", "slow"].map(at)])
    await run(
      sql`insert into membership (list_id, address, valid_from) values (${listId}, ${address}, now())`,
    );
});
afterAll(async () => {
  await house.close();
  await system.close();
});

const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);
const kept = (words: string): string[] =>
  existsSync(system.mailbox)
    ? readFileSync(system.mailbox, "latin1")
        .split(/^From (?=\S+ {2})/m)
        .filter((mail) => mail.includes(words))
    : [];

test("a second mail system takes copies over TLS with a certificate of its own, hands them on with their signatures good, and its reports are understood", async () => {
  const {
    body: { id },
  } = await juno.ask<{ id: string }>("POST", "/api/posts", {
    ...{ lists: [listId], subject: "Wer bekommt es? – Größe" },
    ...{ text: "Liebe Familien, größer als üblich.", key: crypto.randomUUID() },
  });
  const mails = await until(
    `the copies; its log:\n${system.log().slice(-3000)}`,
    () => kept("Delivered-To: "),
    (found) => found.length >= KEPT.length,
  );
  expect(mails.map((mail) => /^Delivered-To: (.*)$/m.exec(mail)?.[1]).sort()).toEqual(KEPT);
  expect(system.log()).toMatch(/TLS connection established from/);
  for (const mail of mails) {
    // What the mailbox file adds before the mail isn't part of it.
    const raw = mail.slice(mail.indexOf("Received: ")).replace(/\n/g, "\r\n");
    const { dkim } = await authenticate(Buffer.from(raw, "latin1"), {
      ...{ ip: "127.0.0.1", helo: "x", sender: "", resolver: openZone(house) },
    });
    expect(dkim.results.map(({ status }) => status.result)).toEqual(["pass"]);
  }
  const page = async (): Promise<PostPage> =>
    (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body;
  const told = await until("the reports", page, ({ deliveries }) => deliveries.bounced >= 2);
  const of = (name: string) => told.recipients.find(({ address }) => address === at(name));
  expect(of("gone")).toMatchObject({ state: "bounced", reply: expect.stringContaining("no such") });
  expect(of("full")).toMatchObject({ state: "bounced", reply: expect.stringContaining("full") });
  await until(
    "the word that one only waits",
    () => run(sql`select sort from bounce where address = ${at("slow")}`),
    ({ rows }) => rows.some(({ sort }) => sort === "not a bounce"),
  );
  const { troubles } = (await juno.ask<Reach>("GET", "/api/reach")).body;
  expect(troubles.map(({ address, state, sort }) => [address, state, sort]).sort()).toEqual([
    [at("full"), "shaky", "full"],
    [at("gone"), "stopped", "no mailbox"],
  ]);
  expect((await page()).recipients.find(({ address }) => address === at("slow"))?.state).not.toBe(
    "bounced",
  );
});
