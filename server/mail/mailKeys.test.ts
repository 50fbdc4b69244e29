import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { authenticate } from "mailauth";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { MailHouse } from "@amigo/contract/mail";
import { replaceKey } from "../commands/replaceKey";
import { startAmigo } from "../startAmigo";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";

const DOMAIN = "lists.copperwheel.example";
const data = mkdtempSync(join(tmpdir(), "amigo-keys-"));
let house: TestHouse;
let juno: Client;
let listId = "";
/** The DNS as it is now. */
const zone = new Map<string, string>();

beforeAll(async () => {
  house = await startTestHouse({ settings: { AMIGO_DATA: data } });
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  const { body: lists } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians");
  listId = lists[0]?.id ?? "";
  house.amigo.context.resolver = async (name: string, type: string) => {
    const found = zone.get(name);
    if (type === "TXT" && found !== undefined) return [[found]];
    throw Object.assign(new Error("no such record"), { code: "ENOTFOUND" });
  };
});
afterAll(async () => {
  await house.close();
  rmSync(data, { recursive: true });
});

const shown = async (): Promise<MailHouse> => (await juno.ask<MailHouse>("GET", "/api/mail")).body;
const states = async () =>
  (await shown()).keys.map(({ selector, state }) => `${selector} ${state}`);
/** Adds the record of a key to the DNS, as the page shows it. */
async function publish(selector: string): Promise<void> {
  const name = `${selector}._domainkey.${DOMAIN}`;
  zone.set(name, (await shown()).records.find((record) => record.name === name)?.value ?? "");
}
const make = async (algorithm: string) =>
  (await juno.ask<{ selector: string }>("POST", "/api/mail/keys", { algorithm })).body.selector;
const change = async (selector: string, state: string) =>
  juno.ask<{ type: string }>("PUT", `/api/mail/keys/${selector}`, { state });
const remove = async (selector: string) =>
  juno.ask<{ type: string }>("DELETE", `/api/mail/keys/${selector}`);

/** Writes to somebody, and returns what a receiver finds of each signature of the copy. */
async function signaturesOf(subject: string): Promise<string[]> {
  await juno.ask("POST", "/api/posts", {
    ...{ lists: [listId], subject, text: "Dear families.", key: crypto.randomUUID() },
  });
  const found = () => house.sink.mails.find(({ raw }) => raw.includes(`Subject: ${subject}\r\n`));
  const { raw = "" } = (await until("the copy", found, (mail) => mail !== undefined)) ?? {};
  const { dkim } = await authenticate(Buffer.from(raw, "latin1"), {
    ...{ ip: "192.0.2.1", helo: "x", sender: "", resolver: house.amigo.context.resolver },
  });
  return dkim.results.map(({ selector, status }) => `${selector} ${status.result}`).sort();
}

describe("keys that sign mail", () => {
  test("are changed one after another: made, published, used, and removed when no mail needs them", async () => {
    await publish("amigo");
    expect(await signaturesOf("By the first key")).toEqual(["amigo pass"]);
    expect(await make("rsa-sha256")).toBe("amigo2");
    expect(await states()).toEqual(["amigo signing", "amigo2 waiting"]);
    // Mail that a key signs whose record isn't there would count as forged.
    expect((await change("amigo2", "signing")).body.type).toContain("key-not-published");
    zone.set(`amigo2._domainkey.${DOMAIN}`, "v=DKIM1; k=rsa; p=AAAA");
    expect((await change("amigo2", "signing")).status).toBe(409);
    await publish("amigo2");
    expect((await change("amigo2", "signing")).status).toBe(200);
    expect(await states()).toEqual(["amigo retired", "amigo2 signing"]);
    await until(
      "the new key",
      () => house.amigo.context.mailKeys.signers.map(({ selector }) => selector).join(),
      (signers) => signers === "amigo2",
    );
    expect(await signaturesOf("By the second key")).toEqual(["amigo2 pass"]);
    expect((await remove("amigo2")).body.type).toContain("key-signs");
    expect((await remove("amigo")).body.type).toContain("key-needed");
    await house.amigo.context.db.execute(
      sql`update mail_key set since = now() - interval '8 days' where selector = 'amigo'`,
    );
    expect((await remove("amigo")).status).toBe(200);
    expect(await states()).toEqual(["amigo2 signing"]);
  });

  test("of both kinds sign each copy, and one RSA key always does", async () => {
    expect(await make("ed25519-sha256")).toBe("amigo-ed");
    await publish("amigo-ed");
    await change("amigo-ed", "signing");
    await until(
      "both keys",
      () => house.amigo.context.mailKeys.signers.length,
      (count) => count === 2,
    );
    expect(await signaturesOf("By both keys")).toEqual(["amigo-ed pass", "amigo2 pass"]);
    expect((await change("amigo2", "retired")).body.type).toContain("key-needed");
    expect((await change("amigo-ed", "retired")).status).toBe(200);
  });

  test("are made and changed by coordinators alone, and end somewhere", async () => {
    const somebody = house.client();
    expect((await somebody.ask("POST", "/api/mail/keys", { algorithm: "rsa-sha256" })).status).toBe(
      401,
    );
    for (;;) {
      const { status, body } = await juno.ask<{ type: string }>("POST", "/api/mail/keys", {
        algorithm: "rsa-sha256",
      });
      if (status === 200) continue;
      expect(body.type).toContain("too-many-keys");
      break;
    }
    expect((await change("nowhere", "signing")).status).toBe(404);
    const { rows } = await house.amigo.context.db.execute<{ sealed: string }>(
      sql`select sealed from mail_key`,
    );
    expect(rows.every(({ sealed }) => !sealed.includes("PRIVATE"))).toBe(true);
  });
});

describe("the house's key", () => {
  const start = async (folder: string): Promise<string> => {
    const settings = { ...house.amigo.context.settings, data: folder, roles: new Set<never>() };
    try {
      const other = await startAmigo(settings, { resolver: house.amigo.context.resolver });
      await other.close();
      return "started";
    } catch (failure) {
      return String(failure);
    }
  };

  test("is never replaced in silence where it is lost or another's", async () => {
    const empty = mkdtempSync(join(tmpdir(), "amigo-lost-"));
    expect(await start(empty)).toMatch(/key isn't in .*dkim\.pem.*backup.*key replace/s);
    // Nothing was made there that would pass for it the next time.
    expect(await start(empty)).toMatch(/key isn't in/);
    expect(await start(data)).toBe("started");
    expect(await replaceKey(house.amigo.context.settings.databaseUrl)).toMatch(/DNS record/);
    expect(await start(empty)).toBe("started");
    expect(readFileSync(join(empty, "dkim.pem"), "utf8")).toMatch(/PRIVATE KEY/);
    expect(await start(data)).toMatch(/another key than this house's/);
    rmSync(empty, { recursive: true });
  });
});
