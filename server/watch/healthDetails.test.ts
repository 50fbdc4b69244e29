import { storeMessage } from "../posting/acceptPost";
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { HealthDetail } from "@amigo/contract/health";
import { storeEnd, storeBegin } from "../jobs/jobQueries";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { lookAtDetails } from "./healthDetails";

const folder = mkdtempSync(join(tmpdir(), "amigo-health-"));
let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(async () => {
  await house.close();
  rmSync(folder, { recursive: true, force: true });
});

const details = async (): Promise<HealthDetail[]> =>
  (await juno.ask<{ details: HealthDetail[] }>("GET", "/api/health/details")).body.details;
const detail = async (what: string): Promise<HealthDetail | undefined> =>
  (await details()).find((one) => one.what === what);

describe("what a coordinator sees of the machine", () => {
  test("is also part of the health, for nobody else", async () => {
    const { body } = await juno.ask<{ details?: HealthDetail[] }>("GET", "/api/health");
    expect(body.details?.map(({ what }) => what)).toEqual([
      "Database",
      "Clock",
      "Outgoing mail",
      "Mail that waits",
      "Disk",
      "Backup",
      "Last import",
      "Recurring work",
    ]);
    expect((await house.client().ask<object>("GET", "/api/health")).body).not.toHaveProperty(
      "details",
    );
    expect((await house.client().ask("GET", "/api/health/details")).status).toBe(401);
  });

  test("tells of the last import, and of nothing before it", async () => {
    expect(await detail("Last import")).toMatchObject({ state: "ok", at: null });
    await house.read(juno, "autumn-roster.xlsx");
    expect(await detail("Last import")).toMatchObject({ words: "autumn-roster.xlsx" });
  });

  test("asks for backups where there are none, and tells of one that failed or is old", async () => {
    const { settings, db } = house.amigo.context;
    expect(await detail("Backup")).toMatchObject({ state: "warning" });
    settings.backups = { folder, keep: 3 };
    expect(await detail("Backup")).toMatchObject({ state: "warning", at: null });
    const at = new Date();
    await storeBegin(db, "backups", at);
    await storeEnd(db, "backups", { at, took: 5, failure: "" });
    expect(await detail("Backup")).toMatchObject({ state: "ok", at: at.toISOString() });
    const old = new Date(at.getTime() - 3 * 24 * 60 * 60 * 1000);
    await storeEnd(db, "backups", { at: old, took: 5, failure: "" });
    expect(await detail("Backup")).toMatchObject({ state: "warning", at: old.toISOString() });
    await storeEnd(db, "backups", { at, took: 5, failure: "no room on the disk\nat backUp.ts" });
    expect(await detail("Backup")).toMatchObject({
      state: "failing",
      words: "no room on the disk",
    });
    expect(await detail("Recurring work")).toMatchObject({ state: "warning" });
    settings.backups = undefined;
  });

  test("tells of mail that waits for long, and of paused sending", async () => {
    const { db } = house.amigo.context;
    expect(await detail("Mail that waits")).toMatchObject({ state: "ok" });
    const id = await storeMessage(db, Buffer.from("Subject: x\r\n\r\nx"), "<a@b>");
    await db.execute(
      sql`insert into delivery (message_id, address, token, state, priority, created_at) values (${id}, 'ana@lettr.example', 'health', 'queued', 1, now() - interval '5 hours')`,
    );
    expect(await detail("Mail that waits")).toMatchObject({
      state: "warning",
      words: expect.stringMatching(/the oldest for 30\d minutes/) as string,
    });
    await db.execute(sql`update house set queue_paused_by = 'Juno Abara'`);
    expect((await detail("Mail that waits"))?.words).toContain("Juno Abara has paused sending");
    await db.execute(sql`update house set queue_paused_by = ''`);
  });

  test("tells when the certificate of the mail ports runs out", async () => {
    const { settings } = house.amigo.context;
    const [keyFile, certFile] = [join(folder, "key.pem"), join(folder, "cert.pem")];
    const make = (days: number): void => {
      execFileSync(
        "openssl",
        [
          "req",
          "-x509",
          "-newkey",
          "ed25519",
          "-nodes",
          "-subj",
          "/CN=lists.copperwheel.example",
        ].concat([...["-keyout", keyFile, "-out", certFile, "-days", String(days)]]),
        { stdio: "ignore" },
      );
    };
    const what = "Certificate of the mail ports";
    settings.tls = { keyFile, certFile };
    make(90);
    expect(await detail(what)).toMatchObject({ state: "ok" });
    make(10);
    expect(await detail(what)).toMatchObject({ state: "warning" });
    const late = new Date(Date.now() + 20 * 24 * 60 * 60 * 1000);
    expect(
      (await lookAtDetails(house.amigo.context, late)).find((one) => one.what === what),
    ).toMatchObject({
      state: "failing",
    });
    settings.tls = { keyFile, certFile: join(folder, "missing.pem") };
    expect(await detail(what)).toMatchObject({
      state: "failing",
      words: expect.stringContaining("the log says why") as string,
    });
    settings.tls = undefined;
  });
});
