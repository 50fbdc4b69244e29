import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import { bundleOf } from "../scripts/run.mjs";
import { freePorts } from "./testing/freePorts";
import { startPair, type Pair } from "./testing/poolerAndStandby";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "./testing/testHouse";

const ADDRESSES = 1500;
const MACHINES = 3;
/** How many connections to the relay each worker keeps. */
const CONNECTIONS = 3;

let folder = "";
let pair: Pair;
let house: TestHouse;
let juno: Client;
let listId = "";
/** Where each process for pages answers. */
const pages: string[] = [];
const children: ChildProcess[] = [];

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "amigo-machines-"));
  pair = await startPair(folder, { amigo_app: "onlyfortests" });
  // This one only makes the house ready; it speaks to the database itself.
  house = await startTestHouse({ postgres: pair.directUrl("postgres"), roles: "web" });
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  await house.amigo.context.db.execute(
    sql`update membership set valid_until = now() where list_id = ${listId}`,
  );
  await house.amigo.context.db.execute(
    sql`insert into membership (list_id, address, valid_from) select ${listId}::uuid, 'member' || n || '@oakmail.example', now() from generate_series(1, ${ADDRESSES}) as n`,
  );
  // The processes here are of the program for real houses.
  await house.amigo.context.db.execute(sql`update house set demo = false`);
  await dropJobs();
  // All at once, on a database without the tables of jobs.
  await Promise.all(
    Array.from({ length: MACHINES }, async () => {
      await Promise.all([startProcess("web"), startProcess("mail,worker")]);
    }),
  );
});
afterAll(async () => {
  for (const child of children) child.kill("SIGKILL");
  await Promise.all(children.map((child) => child.exitCode ?? once(child, "exit")));
  await house?.close();
  await pair?.close();
  rmSync(folder, { recursive: true, force: true });
});

async function dropJobs(): Promise<void> {
  const client = new pg.Client({
    connectionString: house.amigo.context.settings.databaseDirectUrl,
  });
  await client.connect();
  await client.query("drop schema if exists pgboss cascade");
  await client.end();
}

/** Starts a process as on a machine of its own: it reaches the database by way of the pooler. */
async function startProcess(roles: string): Promise<void> {
  const [web = 0, smtp = 0, submission = 0] = await freePorts(3);
  const { databaseDirectUrl, relay, data } = house.amigo.context.settings;
  const child = spawn(process.execPath, [bundleOf("server/main.ts")], {
    stdio: ["ignore", "ignore", "inherit", "ipc"],
    env: {
      ...process.env,
      AMIGO_LOG: "silent",
      AMIGO_DATABASE_URL: pair.pooledUrl(databaseDirectUrl),
      AMIGO_DATABASE_DIRECT_URL: databaseDirectUrl,
      AMIGO_DATABASE_CONNECTIONS: "8",
      AMIGO_RELAY: relay,
      AMIGO_DATA: data,
      AMIGO_URL: house.url,
      AMIGO_ROLES: roles,
      AMIGO_PORT: String(web),
      AMIGO_SMTP_PORT: String(smtp),
      AMIGO_SUBMISSION_PORT: String(submission),
      AMIGO_CONNECTIONS: String(CONNECTIONS),
      // Longer than the database is away here, so that nothing is claimed again that is only not written down yet.
      AMIGO_CLAIM_SECONDS: "20",
    },
  });
  children.push(child);
  await Promise.race([
    once(child, "message"),
    once(child, "exit").then(() => Promise.reject(new Error(`a process for ${roles} ended`))),
  ]);
  if (roles === "web") pages.push(`http://localhost:${web}`);
}

const get = (page: string, path: string): Promise<Response> =>
  fetch(`${page}${path}`, { headers: { Cookie: juno.cookie } });

/** Listens to what a process tells its pages; returns what was told so far. */
async function listen(page: string): Promise<{ told: () => string; stop: () => void }> {
  const stop = new AbortController();
  const response = await fetch(`${page}/api/events?age=0`, {
    headers: { Cookie: juno.cookie },
    signal: stop.signal,
  });
  let told = "";
  const read = async (): Promise<void> => {
    for await (const part of response.body ?? []) told += new TextDecoder().decode(part);
  };
  read().catch(() => undefined);
  return { told: () => told, stop: () => stop.abort() };
}

async function post(page: string, subject: string): Promise<number> {
  const response = await fetch(`${page}/api/posts`, {
    method: "POST",
    headers: { Cookie: juno.cookie, "Content-Type": "application/json" },
    body: JSON.stringify({
      lists: [listId],
      subject,
      text: "Dear families.",
      key: crypto.randomUUID(),
    }),
  });
  const { addresses = 0 } = (await response.json()) as { addresses?: number };
  return addresses;
}

const arrived = (subject: string): Map<string, number> => {
  const counts = new Map<string, number>();
  for (const { to, raw } of house.sink.mails)
    if (raw.includes(`Subject: ${subject}`)) counts.set(to, (counts.get(to) ?? 0) + 1);
  return counts;
};

const left = async (): Promise<number> => {
  const { rows } = await house.amigo.context.db.execute<{ count: string }>(
    sql`select count(*) as count from delivery where state in ('queued', 'sending', 'deferred')`,
  );
  return Number(rows[0]?.count);
};

test("three processes for pages and three workers behind a pooler begin together on a new database and work as one", async () => {
  // Who signed in at one is signed in at all.
  for (const page of pages) expect((await get(page, "/api/board")).status).toBe(200);
  const [first = "", second = "", third = ""] = pages;
  const heard = await listen(third);
  expect(await post(first, "Together")).toBe(ADDRESSES);
  await until("what one changed is heard at another", heard.told, (told) =>
    told.includes("data: posts"),
  );
  heard.stop();
  await until("an empty queue", left, (count) => count === 0, 120_000);
  const counts = arrived("Together");
  expect([counts.size, Math.max(...counts.values())]).toEqual([ADDRESSES, 1]);
  // Wrong passwords count together, wherever they are tried.
  const tries: number[] = [];
  for (let turn = 0; turn < 30 && !tries.includes(429); turn++) {
    const response = await fetch(`${turn % 2 === 0 ? second : third}/api/sign-in`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ email: "odile.marchetti@copperwheel.example", password: "wrong" }),
    });
    tries.push(response.status);
  }
  expect(tries.at(-1)).toBe(429);
  const elsewhere = await fetch(`${first}/api/sign-in`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ email: "odile.marchetti@copperwheel.example", password: "wrong" }),
  });
  expect(elsewhere.status).toBe(429);
});

test("where the database dies and its standby takes over, no copy is lost, none is doubled but those on the wire, and no process needs a restart", async () => {
  const [first = "", , third = ""] = pages;
  const heard = await listen(third);
  expect(await post(first, "Standby")).toBe(ADDRESSES);
  await until(
    "a beginning",
    () => arrived("Standby").size,
    (count) => count > 200,
  );
  pair.failOver();
  await until(
    "an empty queue",
    () => left().catch(() => -1),
    (count) => count === 0,
    180_000,
  );
  const counts = arrived("Standby");
  expect(counts.size).toBe(ADDRESSES);
  const twice = [...counts.values()].reduce((sum, count) => sum + count - 1, 0);
  expect(twice).toBeLessThanOrEqual(MACHINES * CONNECTIONS);
  for (const page of pages)
    await until(
      "the board",
      async () => (await get(page, "/api/board")).status,
      (status) => status === 200,
    );
  // A page that listened all the time hears what happens now, and everything that it may have missed.
  await until(
    "everything told",
    heard.told,
    (told) => told.includes("data: rounds") && told.includes("data: sources"),
  );
  const before = heard.told().length;
  expect(await post(first, "Afterwards")).toBe(ADDRESSES);
  await until(
    "the change heard",
    () => heard.told().slice(before),
    (told) => told.includes("data: posts"),
  );
  heard.stop();
  for (const child of children) expect(child.exitCode).toBeNull();
}, 400_000);
