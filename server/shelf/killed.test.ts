import { spawn, type ChildProcess } from "node:child_process";
import { createHash, randomBytes } from "node:crypto";
import { once } from "node:events";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { bundleOf } from "../../scripts/run.mjs";
import { freePorts } from "../testing/freePorts";
import { startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { until } from "../testing/testHouse";

const MB = 1024 * 1024;
const PIECE = 3 * MB;
/** How often the process is killed while a file comes. */
const KILLS = 3;
const PATIENCE = 240_000;

let house: ShelfHouse;
let port = 0;
let child: ChildProcess | undefined;
beforeAll(async () => {
  house = await startShelfHouse();
  // The process here is of the program for real houses.
  await house.house.amigo.context.db.execute(sql`update house set demo = false`);
  [port = 0] = await freePorts(1);
});
afterAll(async () => {
  await kill();
  await house?.house.close();
});

/** Starts a process of its own that serves pages, as a machine beside this one would. */
async function start(): Promise<void> {
  const { databaseUrl, data } = house.house.amigo.context.settings;
  child = spawn(process.execPath, [bundleOf("server/main.ts")], {
    stdio: ["ignore", "ignore", "inherit", "ipc"],
    env: {
      ...process.env,
      AMIGO_LOG: "silent",
      AMIGO_DATABASE_URL: databaseUrl,
      AMIGO_DATA: data,
      AMIGO_ROLES: "web",
      AMIGO_PORT: String(port),
    },
  });
  await once(child, "message");
}
async function kill(): Promise<void> {
  if (child === undefined || child.exitCode !== null) return;
  const ended = once(child, "exit");
  child.kill("SIGKILL");
  await ended;
  child = undefined;
}
const there = (path: string): string => `http://localhost:${port}${path}`;
const send = (path: string, method: string, body: Uint8Array<ArrayBuffer>): Promise<Response> =>
  fetch(there(path), {
    method,
    headers: { Cookie: house.juno.cookie, Origin: `http://localhost:${port}` },
    body,
  });

describe("a process that is killed while a file comes", () => {
  test(
    "loses nothing of the pieces that it said have come",
    async () => {
      const bytes = new Uint8Array(randomBytes(15 * MB + 7));
      const made = await house.juno.ask<{ id: string }>("POST", "/api/uploads", {
        size: bytes.length,
      });
      const path = `/api/uploads/${made.body.id}`;
      const received = async (): Promise<number> =>
        (await house.juno.ask<{ received: number }>("GET", path)).body.received;
      await start();
      let [said, kills] = [0, 0];
      while (said < bytes.length) {
        const at = await received();
        expect(at).toBeGreaterThanOrEqual(said);
        const sent = send(`${path}?at=${at}`, "PUT", bytes.slice(at, at + PIECE)).catch(
          () => undefined,
        );
        if (kills < KILLS) {
          kills++;
          // Somewhere in the midst of a piece, another place each time.
          await until("the piece is on its way", received, () => Math.random() < 0.5);
          await kill();
          await sent;
          await start();
        } else {
          const answer = await sent;
          expect(answer?.status).toBe(200);
          said = ((await answer?.json()) as { received: number }).received;
        }
      }
      const put = `/api/lists/${house.trapeze}/shelf/files?name=film.mp4&upload=${made.body.id}`;
      const { id } = (await (await send(put, "POST", new Uint8Array())).json()) as { id: string };
      const { versions } = await house.detailsOf(id);
      expect(versions[0]).toMatchObject({
        size: bytes.length,
        checksum: createHash("sha256").update(bytes).digest("hex"),
      });
    },
    PATIENCE,
  );

  test(
    "has put nothing on the shelf that came by half",
    async () => {
      const before = (await house.shelf()).length;
      const { db } = house.house.amigo.context;
      const parts = async (): Promise<number> =>
        (await db.execute<{ count: number }>(sql`select count(*)::int as count from blob_part`))
          .rows[0]?.count ?? 0;
      const had = await parts();
      if (child === undefined) await start();
      const put = `/api/lists/${house.trapeze}/shelf/files?name=half.mp4`;
      const body = new ReadableStream<Uint8Array>({
        pull: async (controller) => {
          controller.enqueue(new Uint8Array(randomBytes(MB)));
          if ((await parts()) > had) await kill();
        },
      });
      const sent = fetch(there(put), {
        method: "POST",
        headers: { Cookie: house.juno.cookie, Origin: `http://localhost:${port}` },
        body,
        duplex: "half",
      } as RequestInit).catch(() => undefined);
      await sent;
      expect((await house.shelf()).length).toBe(before);
    },
    PATIENCE,
  );
});
