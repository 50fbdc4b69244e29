import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import nodemailer from "nodemailer";
import { sql } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { startPostgres } from "../../scripts/postgres.mjs";
import { bundleOf } from "../../scripts/run.mjs";
import { freePorts } from "../testing/freePorts";
import { startSink } from "../testing/sink";
import { JUNO, startTestHouse, until, type TestHouse } from "../testing/testHouse";
import { Deliverer } from "./deliver";

const NAME = "ml-wire-parents-2627";
const LIST = `${NAME}@lists.copperwheel.example`;
const ADDRESSES = 2000;
/** How many connections to the relay a process keeps, and how often it is killed. */
const CONNECTIONS = 5;
const KILLS = 4;
/** Every process takes seconds to start, on a busy machine many: how long a test may take, in milliseconds. */
const PATIENCE = 300_000;

/** A PostgreSQL of this file's own, which is crashed; its commits are on the disk, as in a house that is for real. */
let postgres: Awaited<ReturnType<typeof startPostgres>>;
let folder = "";
let house: TestHouse;
let listId = "";
let ports: number[] = [];
const children = new Set<ChildProcess>();

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "amigo-no-loss-"));
  chmodSync(folder, 0o755);
  postgres = await startPostgres(join(folder, "postgres"));
  // Longer than PostgreSQL is away here, so that nothing is claimed again that is only not written down yet.
  house = await startTestHouse({
    postgres: postgres.url("postgres"),
    roles: "web",
    settings: { AMIGO_CLAIM_SECONDS: "15" },
  });
  const juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  const { db } = house.amigo.context;
  // The processes here are of the program for real houses.
  await db.execute(sql`update house set demo = false`);
  await db.execute(sql`update membership set valid_until = now() where list_id = ${listId}`);
  await db.execute(
    sql`insert into membership (list_id, address, valid_from) select ${listId}::uuid, 'member' || n || '@oakmail.example', now() from generate_series(1, ${ADDRESSES}) as n`,
  );
  ports = await freePorts(2);
});
afterAll(async () => {
  for (const child of children) {
    child.kill("SIGKILL");
    await once(child, "exit");
  }
  await house.close();
  postgres.remove();
  rmSync(folder, { recursive: true, force: true });
});
afterEach(() => {
  house.sink.mails.length = 0;
});

/** Starts a process of its own that takes mail and delivers it, as a machine beside the pages would. */
async function startProcess(roles = "mail,worker"): Promise<ChildProcess> {
  const { databaseUrl, relay, data } = house.amigo.context.settings;
  const child = spawn(process.execPath, [bundleOf("server/main.ts")], {
    stdio: ["ignore", "ignore", "inherit", "ipc"],
    env: {
      ...process.env,
      AMIGO_LOG: "silent",
      AMIGO_DATABASE_URL: databaseUrl,
      AMIGO_RELAY: relay,
      AMIGO_DATA: data,
      AMIGO_ROLES: roles,
      AMIGO_SMTP_PORT: String(ports[0]),
      AMIGO_SUBMISSION_PORT: String(ports[1]),
      AMIGO_CLAIM_SECONDS: "2",
      AMIGO_CONNECTIONS: String(CONNECTIONS),
    },
  });
  children.add(child);
  await once(child, "message");
  return child;
}

async function kill(child: ChildProcess): Promise<void> {
  const gone = once(child, "exit");
  child.kill("SIGKILL");
  await gone;
  children.delete(child);
}

/** Hands a mail in until it was acknowledged, as any mail system would. Returns how often it took. */
async function handIn(subject: string, whileTrying: () => Promise<void>): Promise<number> {
  for (let tries = 1; ; tries++) {
    const transport = nodemailer.createTransport({
      host: "127.0.0.1",
      port: ports[1],
      ignoreTLS: true,
      auth: { user: JUNO, pass: DEMO_PASSWORD },
      connectionTimeout: 2000,
    });
    try {
      const [sent] = await Promise.all([
        transport
          .sendMail({
            from: JUNO,
            to: LIST,
            subject,
            text: "Dear families.",
            messageId: `<${subject.replace(/ /g, ".")}@copperwheel.example>`,
          })
          .then(
            () => true,
            () => false,
          ),
        whileTrying(),
      ]);
      if (sent) return tries;
    } finally {
      transport.close();
    }
  }
}

/** How many copies of a mail arrived, by address. */
function arrived(subject: string): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { to, raw } of house.sink.mails)
    if (raw.includes(`Subject: ${subject}`)) counts.set(to, (counts.get(to) ?? 0) + 1);
  return counts;
}

const left = async (): Promise<unknown[]> =>
  (
    await house.amigo.context.db.execute(
      sql`select state, attempts, reply, next_at, now() as now, address from delivery where state in ('queued', 'sending', 'deferred')`,
    )
  ).rows;
const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, milliseconds);
  });

describe("a post to 2,000 addresses loses nobody", () => {
  test(
    "when the process is killed while it takes the mail, and again and again while it delivers",
    async () => {
      let child = await startProcess();
      // Killed within the taking: whatever was not acknowledged is handed in again.
      const moments = [Math.random() * 60, 20 + Math.random() * 100];
      const tries = await handIn("Killed", async () => {
        const moment = moments.shift();
        if (moment === undefined) return;
        await pause(moment);
        await kill(child);
        child = await startProcess();
      });
      expect(tries).toBeLessThanOrEqual(3);
      for (let turn = 0; turn < KILLS && (await left()).length > 0; turn++) {
        const before = house.sink.mails.length;
        await until(
          "some more to arrive",
          () => house.sink.mails.length,
          (count) => count > before + 20 || house.sink.mails.length >= ADDRESSES,
          30_000,
        );
        await pause(Math.random() * 150);
        await kill(child);
        child = await startProcess();
      }
      await until("an empty queue", left, (rows) => rows.length === 0, 60_000);
      const counts = arrived("Killed");
      expect(counts.size).toBe(ADDRESSES);
      const twice = [...counts.values()].reduce((sum, count) => sum + count - 1, 0);
      // At each kill, at most this many copies were sent and not written down: one on the wire for each connection, and four that waited.
      expect(twice).toBeLessThanOrEqual((KILLS + 2) * 5 * CONNECTIONS);
      expect(Math.max(...counts.values())).toBeLessThanOrEqual(3);
      await kill(child);
    },
    PATIENCE,
  );

  test(
    "when a worker is suspended for longer than its claims hold, and goes on after another has done its work",
    async () => {
      const suspended = await startProcess();
      await handIn("Suspended", () => Promise.resolve());
      await until(
        "a beginning",
        () => arrived("Suspended").size,
        (count) => count > 50,
      );
      suspended.kill("SIGSTOP");
      const other = await startProcess("worker");
      await until("an empty queue", left, (rows) => rows.length === 0, 60_000);
      await kill(other);
      suspended.kill("SIGCONT");
      // Whatever it still had in hand comes before this.
      await handIn("Afterwards", () => Promise.resolve());
      await until(
        "what came later",
        () => arrived("Afterwards").size,
        (count) => count === ADDRESSES,
        60_000,
      );
      const counts = arrived("Suspended");
      expect(counts.size).toBe(ADDRESSES);
      const twice = [...counts.values()].reduce((sum, count) => sum + count - 1, 0);
      // What was on the wire when it was suspended, and what was sent but not written down.
      expect(twice).toBeLessThanOrEqual(5 * CONNECTIONS);
      await kill(suspended);
    },
    PATIENCE,
  );

  test(
    "when PostgreSQL crashes and comes back and the relay goes away, with four workers that send nothing twice",
    async () => {
      const { context } = house.amigo;
      const workers = Array.from({ length: 4 }, () => new Deliverer(context));
      try {
        const juno = await house.signIn(JUNO);
        const { body } = await juno.ask<{ id: string; addresses: number }>("POST", "/api/posts", {
          lists: [listId],
          subject: "Crashed",
          text: "Dear families.",
          key: crypto.randomUUID(),
        });
        expect(body.addresses).toBe(ADDRESSES);
        const { port } = house.sink;
        const kept = house.sink.mails;
        await until(
          "a beginning",
          () => house.sink.mails.length,
          (count) => count > 100,
        );
        postgres.crash();
        await until(
          "more of it",
          () => house.sink.mails.length,
          (count) => count > 500,
        );
        await house.sink.close();
        await until(
          "a try in vain",
          async () =>
            Number(
              (
                await context.db.execute(
                  sql`select count(*) as count from delivery where state = 'deferred'`,
                )
              ).rows[0]?.count,
            ),
          (count) => count > 0,
        );
        house.sink = await startSink(port);
        house.sink.mails.push(...kept);
        await until(
          "no claim left",
          async () => {
            await context.db.execute(
              sql`update delivery set next_at = now() where state = 'deferred'`,
            );
            return left();
          },
          (rows) => rows.length === 0,
          60_000,
        );
        const counts = arrived("Crashed");
        expect(counts.size).toBe(ADDRESSES);
        // A copy is there twice only where its acknowledgement was lost with the relay's connection.
        const twice = [...counts.values()].reduce((sum, count) => sum + count - 1, 0);
        expect(twice).toBeLessThanOrEqual(4 * CONNECTIONS);
      } finally {
        await Promise.all(workers.map((worker) => worker.close()));
      }
    },
    PATIENCE,
  );

  test(
    "and two, then four workers at peace send each copy once",
    async () => {
      const { context } = house.amigo;
      const juno = await house.signIn(JUNO);
      for (const many of [2, 4]) {
        house.sink.mails.length = 0;
        const workers = Array.from({ length: many }, () => new Deliverer(context));
        try {
          const subject = `Workers ${many}`;
          await juno.ask("POST", "/api/posts", {
            lists: [listId],
            subject,
            text: "Dear families.",
            key: crypto.randomUUID(),
          });
          await until("an empty queue", left, (rows) => rows.length === 0, 60_000);
          const counts = arrived(subject);
          expect([counts.size, Math.max(...counts.values())]).toEqual([ADDRESSES, 1]);
        } finally {
          await Promise.all(workers.map((worker) => worker.close()));
        }
      }
    },
    PATIENCE,
  );
});
