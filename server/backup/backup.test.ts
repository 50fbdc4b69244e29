import { execFileSync } from "node:child_process";
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Pulse } from "@amigo/contract/house";
import type { MailHouse } from "@amigo/contract/mail";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { knownMigrations } from "../db/knownMigrations";
import { startAmigo } from "../startAmigo";
import { freePorts } from "../testing/freePorts";
import { makeTestDatabase, type TestDatabase } from "../testing/testDatabase";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";
import { backUp } from "./backUp";
import { keepBackups } from "./keepBackups";
import { restoreBackup } from "./restoreBackup";

const folder = mkdtempSync(join(tmpdir(), "amigo-backups-"));
const path = (name: string): string => join(folder, name);
let house: TestHouse;
let juno: Client;
let listId = "";
const databases: TestDatabase[] = [];

beforeAll(async () => {
  house = await startTestHouse({ settings: { AMIGO_DATA: path("first") } });
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  const { body: lists } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians");
  listId = lists[0]?.id ?? "";
});
afterAll(async () => {
  await house.close();
  for (const database of databases) await database.drop();
  rmSync(folder, { recursive: true });
});

const settings = () => house.amigo.context.settings;
const write = async (subject: string): Promise<string> => {
  await juno.ask("POST", "/api/posts", {
    ...{ lists: [listId], subject, text: "Dear families.", key: crypto.randomUUID() },
  });
  const found = () => house.sink.mails.find(({ raw }) => raw.includes(`Subject: ${subject}\r\n`));
  return (await until("the copy", found, (mail) => mail !== undefined))?.raw ?? "";
};
/** Settings for the same house in another place. */
async function elsewhere(name: string) {
  const database = await makeTestDatabase();
  databases.push(database);
  mkdirSync(path(name), { recursive: true });
  const { url } = database;
  return { ...settings(), data: path(name), databaseUrl: url, databaseDirectUrl: url };
}
/** An archive with some of its three files changed. */
function changed(file: string, change: (inside: string) => void): string {
  const inside = mkdtempSync(join(folder, "inside-"));
  execFileSync("tar", ["-xf", file, "-C", inside]);
  change(inside);
  const made = path(`${crypto.randomUUID()}.tar`);
  execFileSync("tar", ["-cf", made, "-C", inside, ...readdirSync(inside)]);
  return made;
}

describe("a backup", () => {
  test("of a running house puts it up elsewhere, where everything works and no mail goes out until somebody says so", async () => {
    const copy = await write("Before the backup");
    const leave = /^List-Unsubscribe: <[^>]*\/leave\/([\w.-]+)>/m.exec(copy)?.[1] ?? "";
    await house.amigo.context.db.execute(sql`update house set queue_paused_by = 'a test'`);
    const { body: late } = await juno.ask<{ addresses: number }>("POST", "/api/posts", {
      ...{ lists: [listId], subject: "Still waiting", text: "Soon.", key: crypto.randomUUID() },
    });
    const backup = await backUp(settings(), path("one.tar"), new Date());
    await house.amigo.context.db.execute(sql`update house set queue_paused_by = ''`);
    expect(statSync(backup.file).mode & 0o777).toBe(0o600);
    expect(readdirSync(folder).filter((name) => name.startsWith(".amigo"))).toEqual([]);

    const other = await elsewhere("second");
    const restored = await restoreBackup(other, backup.file);
    expect(restored.manifest.house).toBe("Copperwheel Circus School");
    const [web = 0, smtp = 0, submission = 0] = await freePorts(3);
    const url = `http://localhost:${web}`;
    const amigo = await startAmigo(
      { ...other, port: web, smtpPort: smtp, submissionPort: submission, url },
      { resolver: house.amigo.context.resolver },
    );
    try {
      let cookie = "";
      const ask = async <Value>(method: string, at: string, body?: unknown) => {
        const response = await fetch(`${url}${at}`, {
          method,
          headers: { "Content-Type": "application/json", Origin: url, Cookie: cookie },
          ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        });
        cookie = response.headers.getSetCookie()[0]?.split(";")[0] ?? cookie;
        return { status: response.status, body: (await response.json()) as Value };
      };
      expect(
        (await ask("POST", "/api/sign-in", { email: JUNO, password: DEMO_PASSWORD })).status,
      ).toBe(200);
      const { body: pulse } = await ask<Pulse>("GET", "/api/pulse");
      expect(pulse.pausedBy).toBe("the restored backup");
      // A link in a mail that the first house sent.
      const page = await fetch(`${url}/leave/${leave}`);
      expect([page.status, await page.text()]).toEqual([200, expect.stringContaining("Wire Walk")]);
      expect((await fetch(`${url}/leave/${leave.slice(0, -1)}A`)).status).toBe(404);
      expect((await ask<MailHouse>("GET", "/api/mail")).body.queue).toMatchObject({
        waiting: late.addresses,
      });
      expect(restored.waiting).toBe(late.addresses);
      house.sink.mails.length = 0;
      await ask("POST", "/api/mail/queue", { paused: false });
      await until(
        "what waited",
        () => house.sink.mails.filter(({ raw }) => raw.includes("Subject: Still waiting")).length,
        (count) => count >= late.addresses,
      );
    } finally {
      await amigo.close();
    }
  });

  test("that is damaged, foreign or of a newer Amigo isn't restored, and nothing is half there", async () => {
    const { file } = await backUp(settings(), path("two.tar"), new Date());
    const target = await elsewhere("third");
    const refusal = (archive: string) =>
      restoreBackup(target, archive).then(
        () => "restored",
        (failure: unknown) => String(failure),
      );
    const flip = (inside: string): void => {
      const octets = readFileSync(join(inside, "amigo.dump"));
      octets[octets.length >> 1] = (octets[octets.length >> 1] ?? 0) ^ 1;
      writeFileSync(join(inside, "amigo.dump"), octets);
    };
    expect(await refusal(changed(file, flip))).toMatch(/damaged: amigo\.dump/);
    expect(await refusal(changed(file, (inside) => rmSync(join(inside, "house-key.pem"))))).toMatch(
      /three files/,
    );
    const newer = (inside: string): void => {
      const manifest = JSON.parse(readFileSync(join(inside, "manifest.json"), "utf8")) as object;
      const schema = knownMigrations().last + 1;
      writeFileSync(join(inside, "manifest.json"), JSON.stringify({ ...manifest, schema }));
    };
    expect(await refusal(changed(file, newer))).toMatch(/newer Amigo/);
    writeFileSync(path("text.tar"), "no archive");
    expect(await refusal(path("text.tar"))).toMatch(/no backup of Amigo/);
    expect(await refusal(path("nowhere.tar"))).toMatch(/There is no file/);
    writeFileSync(path("third/dkim.pem"), "another key");
    expect(await refusal(file)).toMatch(/key of another house/);
    rmSync(path("third/dkim.pem"));
    expect(existsSync(path("third/dkim.pem"))).toBe(false);
    expect(await refusal(file)).toBe("restored");
    expect(await refusal(file)).toMatch(/isn't empty/);
    await expect(backUp(settings(), file, new Date())).rejects.toThrow(/is there already/);
  });

  test("is made every day of the house, and the oldest go", async () => {
    const backups = { folder: path("daily"), keep: 3 };
    const context = { ...house.amigo.context, settings: { ...settings(), backups } };
    mkdirSync(backups.folder);
    copyFileSync(path("one.tar"), join(backups.folder, "kept by hand.tar"));
    for (const day of ["2026-11-26", "2026-11-27", "2026-11-28", "2026-11-28", "2026-11-29"])
      await keepBackups(context, new Date(`${day}T12:00:00Z`));
    expect(readdirSync(backups.folder).sort()).toEqual([
      "amigo-2026-11-27.tar",
      "amigo-2026-11-28.tar",
      "amigo-2026-11-29.tar",
      "kept by hand.tar",
    ]);
  });
});

test("an older Amigo doesn't touch what a newer one has updated", async () => {
  const other = await elsewhere("fourth");
  await restoreBackup(other, path("two.tar"));
  const start = () =>
    startAmigo({ ...other, roles: new Set() }, { resolver: house.amigo.context.resolver });
  await (await start()).close();
  await house.amigo.context.db.execute(sql`select 1`);
  const { onDatabase } = await import("../db/onDatabase");
  await onDatabase(other.databaseUrl, (tx) =>
    tx.execute(
      sql`insert into drizzle.__drizzle_migrations (hash, created_at) values ('of tomorrow', ${knownMigrations().last + 1})`,
    ),
  );
  await expect(start()).rejects.toThrow(/newer Amigo has updated this database/);
});
