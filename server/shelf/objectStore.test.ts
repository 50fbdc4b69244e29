import { randomBytes } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import pino from "pino";
import S3rver from "s3rver";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readSettings } from "../settings";
import { startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { removeLooseBlobs } from "./removeLooseBlobs";
import { openObjectStore } from "./objectStore";
import { proveBlobs } from "./proveBlobs";

const directory = mkdtempSync(join(tmpdir(), "amigo-objects-"));
const ACCESS = { AMIGO_SHELF_STORE_KEY: "S3RVER", AMIGO_SHELF_STORE_SECRET: "S3RVER" };
const MB = 1024 * 1024;
let house: ShelfHouse;
let server: S3rver;
let port = 0;

async function startStore(at: number): Promise<void> {
  server = new S3rver({
    ...{ port: at, address: "127.0.0.1", silent: true, directory },
    configureBuckets: [{ name: "amigo", configs: [] }],
  });
  ({ port } = await server.run());
}
beforeAll(async () => {
  await startStore(0);
  const AMIGO_SHELF_STORE = `http://127.0.0.1:${port}/amigo/house one`;
  house = await startShelfHouse({ ...ACCESS, AMIGO_SHELF_STORE });
});
afterAll(async () => {
  await house?.house.close();
  await server.close();
  rmSync(directory, { recursive: true });
});

const context = () => house.house.amigo.context;
/** The ids of octets that are kept, with where, and how many of their parts the database has. */
const kept = async (): Promise<{ id: string; store: string; rows: number }[]> =>
  (
    await context().db.execute<{ id: string; store: string; rows: number }>(
      sql`select id, store, (select count(*)::int from blob_part where blob_id = blob.id) as rows from blob order by made_at`,
    )
  ).rows;
const health = () => house.juno.ask<{ status: string; shelfStore?: boolean }>("GET", "/api/health");

describe("files in a store of objects", () => {
  test("come back as they went, whole and in parts, and the database has none of their octets", async () => {
    const oak = await house.memberOf("oak@oakmail.example");
    const bytes = randomBytes(5 * MB + 77);
    const id = await house.put("film.mp4", bytes);
    const whole = await house.open(id, oak);
    expect(Buffer.from(await whole.arrayBuffer()).equals(bytes)).toBe(true);
    const range = { Range: `bytes=${3 * MB - 5}-${4 * MB + 9}` };
    const part = await house.open(id, oak, range);
    expect(part.status).toBe(206);
    const wanted = bytes.subarray(3 * MB - 5, 4 * MB + 10);
    expect(Buffer.from(await part.arrayBuffer()).equals(wanted)).toBe(true);
    const zip = await house.raw("GET", `/api/lists/${house.trapeze}/shelf/files/zip`, house.juno);
    expect(Buffer.from(await zip.arrayBuffer()).includes(bytes.subarray(MB, MB + 500))).toBe(true);
    expect(await kept()).toMatchObject([{ store: "objects", rows: 0 }]);
    // The same octets again are kept once.
    await house.put("again.mp4", bytes);
    expect(await kept()).toHaveLength(1);
  });

  test("come piece by piece, too", async () => {
    const bytes = randomBytes(2 * MB + 5);
    const { body } = await house.juno.ask<{ id: string }>("POST", "/api/uploads", {
      size: bytes.length,
    });
    const piece = (at: number, until?: number) =>
      house.raw("PUT", `/api/uploads/${body.id}?at=${at}`, house.juno, bytes.subarray(at, until));
    expect(await (await piece(0, MB)).json()).toMatchObject({ received: MB });
    expect(await (await piece(MB)).json()).toMatchObject({ received: bytes.length });
    const path = `/api/lists/${house.trapeze}/shelf/files?name=p.bin&upload=${body.id}`;
    const { id } = (await (await house.raw("POST", path, house.juno)).json()) as { id: string };
    const got = await house.raw("GET", `/api/shelf/${id}/files/1`, house.juno);
    expect(Buffer.from(await got.arrayBuffer()).equals(bytes)).toBe(true);
  });

  test("that nothing has any more are removed with their objects", async () => {
    const store = await openObjectStore(context().settings);
    const id = await house.put("gone.txt", "gone");
    const blob = (await kept()).at(-1)?.id ?? "";
    expect((await store?.get(`${blob}/0`))?.toString()).toBe("gone");
    await context().db.execute(sql`delete from shelf_thing where id = ${id}`);
    expect(await removeLooseBlobs(context())).toBe(0);
    await context().db.execute(sql`update blob set made_at = now() - interval '2 days'`);
    expect(await removeLooseBlobs(context())).toBe(1);
    expect(await store?.get(`${blob}/0`)).toBeUndefined();
    expect(await kept()).toHaveLength(2);
  });

  test("whose objects are gone or others are known as damaged", async () => {
    const log = pino({ enabled: false });
    const store = await openObjectStore(context().settings);
    const id = await house.put("plan.txt", "the plan");
    const own = (
      await context().db.execute<{ id: string }>(
        sql`select blob_id as id from shelf_version where thing_id = ${id}`,
      )
    ).rows[0]?.id;
    await store?.put(`${own}/0`, Buffer.from("another!"));
    await context().db.execute(sql`update blob set proved_at = now() - interval '40 days'`);
    await proveBlobs({ ...context(), log });
    expect((await house.thingOf(id))?.isDamaged).toBe(true);
    await store?.removeAll(`${own}/`);
    await context().db.execute(sql`update blob set proved_at = now() - interval '40 days'`);
    await proveBlobs({ ...context(), log });
    expect((await house.thingOf(id))?.isDamaged).toBe(true);
    // The same file once more heals it.
    await house.put("plan 2.txt", "the plan");
    expect((await house.thingOf(id))?.isDamaged).toBe(false);
  });

  test("are refused while the store is away, which the health check says, and taken when it is back", async () => {
    expect((await health()).body).toMatchObject({ shelfStore: true });
    const before = (await house.shelf()).length;
    await server.close();
    expect((await health()).body).toMatchObject({ status: "failing", shelfStore: false });
    expect(await house.put("later.txt", "later")).toBe("503");
    expect(await house.shelf()).toHaveLength(before);
    // The work of each day goes on without it, and nothing is taken for damaged.
    await context().db.execute(
      sql`update blob set made_at = now() - interval '40 days', proved_at = null`,
    );
    await context().db.execute(
      sql`insert into blob (store, made_at) values ('objects', now() - interval '2 days')`,
    );
    expect(await removeLooseBlobs(context())).toBe(0);
    await proveBlobs({ ...context(), log: pino({ enabled: false }) });
    expect((await house.shelf()).some(({ isDamaged }) => isDamaged)).toBe(false);
    await startStore(port);
    expect(await removeLooseBlobs(context())).toBeGreaterThan(0);
    expect(await house.put("later.txt", "later")).toMatch(/-/);
    expect((await health()).body).toMatchObject({ shelfStore: true });
  });
});

describe("settings of the store", () => {
  const base = { AMIGO_DATABASE_URL: "postgres://localhost/amigo" };

  test("name the server, the bucket and what stands before all keys", () => {
    const AMIGO_SHELF_STORE = "https://files.brightpost.example/amigo/a/b/";
    const { shelfStore } = readSettings({ ...base, ...ACCESS, AMIGO_SHELF_STORE });
    expect(shelfStore).toMatchObject({
      endpoint: "https://files.brightpost.example",
      bucket: "amigo",
      prefix: "a/b/",
    });
  });

  test.each([
    [{ ...ACCESS, AMIGO_SHELF_STORE: "https://files.brightpost.example/" }, /bucket/],
    [{ AMIGO_SHELF_STORE: "https://files.brightpost.example/amigo" }, /AMIGO_SHELF_STORE_KEY/],
    [{ AMIGO_SCANNER: "http://localhost" }, /clamd:/],
  ])("that are wrong are named: %j", (settings, words) => {
    expect(() => readSettings({ ...base, ...settings })).toThrow(words);
  });
});
