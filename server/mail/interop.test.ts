import { execFileSync, spawn } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Reach } from "@amigo/contract/mail";
import type { PostPage } from "@amigo/contract/posts";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { startMailSystem, type MailSystem } from "../testing/mailSystem";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";

const NAME = "ml-wire-parents-2627";
const DOMAIN = "lists.copperwheel.example";
const LIST = `${NAME}@${DOMAIN}`;
const at = (name: string): string => `${name}@oakmail.example`;
const KEPT = ["ida.kept", "jon.kept", "lea.kept"].map(at);

let folder = "";
let system: MailSystem;
let house: TestHouse;
let juno: Client;
let listId = "";

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "amigo-interop-"));
  execFileSync(
    "openssl",
    [
      "req",
      "-x509",
      "-newkey",
      "rsa:2048",
      "-nodes",
      "-days",
      "2",
      "-subj",
      "/CN=localhost",
      "-keyout",
      join(folder, "key.pem"),
      "-out",
      join(folder, "cert.pem"),
    ],
    { stdio: "ignore" },
  );
  system = await startMailSystem();
  house = await startTestHouse({
    settings: {
      AMIGO_RELAY: `smtp://127.0.0.1:${system.port}`,
      AMIGO_TLS_KEY: join(folder, "key.pem"),
      AMIGO_TLS_CERT: join(folder, "cert.pem"),
    },
  });
  system.knowHouse(house.amigo.context.settings.smtpPort);
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  await run(sql`update membership set valid_until = now() where list_id = ${listId}`);
  await run(sql`update list set rules = rules || '{"perDay": "500"}'::jsonb where id = ${listId}`);
  await add(KEPT);
});
afterAll(async () => {
  await house.close();
  await system.close();
  rmSync(folder, { recursive: true, force: true });
});

const add = async (addresses: readonly string[]): Promise<void> => {
  for (const address of addresses)
    await run(
      sql`insert into membership (list_id, address, valid_from) values (${listId}, ${address}, now())`,
    );
};
const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);

/** What a program that we did not write printed, and how it ended. */
function ask(
  program: string,
  args: readonly string[],
  input = "",
): Promise<{ code: number; output: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { env: { ...process.env, LC_ALL: "C.UTF-8", TZ: "UTC" } });
    let output = "";
    child.stdout.on("data", (chunk: Buffer) => {
      output += chunk.toString();
    });
    child.stderr.on("data", (chunk: Buffer) => {
      output += chunk.toString();
    });
    child.once("error", reject);
    child.once("close", (code) => resolve({ code: code ?? -1, output }));
    child.stdin.end(input);
  });
}

/** Sends with the SMTP test client. Its exit codes: 0 all well, 24 a recipient refused, 26 the message refused, 28 not signed in. */
const swaks = (port: number, ...args: string[]) =>
  ask("/usr/bin/swaks", ["--server", `127.0.0.1:${port}`, "--helo", "client.example", ...args]);
const incoming = (): number => house.amigo.context.settings.smtpPort;
const submission = (): number => house.amigo.context.settings.submissionPort;
const signedIn = [
  "--auth",
  "PLAIN",
  "--auth-user",
  JUNO,
  "--auth-password",
  DEMO_PASSWORD,
  "--from",
  JUNO,
];

/** Reads a mailbox file with the mail reader's batch mode. */
const read = (file: string, ...commands: string[]) =>
  ask("/usr/bin/s-nail", ["-n", "-R", "-#", "-f", file], [...commands, "exit", ""].join("\n"));

/** The mails in the mail system's mailbox that hold some words. */
function kept(words: string): string[] {
  if (!existsSync(system.mailbox)) return [];
  return readFileSync(system.mailbox, "latin1")
    .split(/^From (?=\S+ )/m)
    .filter((mail) => mail.includes(words));
}
const arrived = (words: string, count: number) =>
  until(
    `${count} mails with "${words}" in the mail system; its log:\n${system.log().slice(-3000)}`,
    () => kept(words),
    (mails) => mails.length >= count,
  );

describe("an SMTP client that we did not write", () => {
  test("is told which recipients are unknown, what is too large and who is not signed in", async () => {
    const unknown = await swaks(incoming(), "--from", KEPT[0] ?? "", "--to", `nobody@${DOMAIN}`);
    expect(unknown.code).toBe(24);
    expect(unknown.output).toMatch(/<\*\* 550 5\.1\.1 /);
    const large = await swaks(incoming(), "--from", `${KEPT[0]}> SIZE=99000000 X=<`, "--to", LIST);
    expect(large.output).toMatch(/<\*\* 552 /);
    const wrong = await swaks(
      submission(),
      "--tls",
      "--auth",
      "PLAIN",
      "--auth-user",
      JUNO,
      "--auth-password",
      "not-it",
      "--to",
      LIST,
    );
    expect(wrong.code).toBe(28);
    expect(wrong.output).toMatch(/<~\* 535 5\.7\.8 /);
    const plain = await swaks(submission(), ...signedIn, "--to", LIST);
    expect(plain.code, "no password without encryption").not.toBe(0);
    const relayed = await swaks(submission(), "--tls", ...signedIn, "--to", at("anybody"));
    expect(relayed.code, "no open relay, not even for accounts").toBe(24);
  });

  test("offers what it should be offered", async () => {
    const { output } = await swaks(incoming(), "--quit-after", "EHLO");
    for (const extension of ["STARTTLS", "SIZE", "8BITMIME", "SMTPUTF8", "PIPELINING"])
      expect(output).toMatch(new RegExp(`250[ -]${extension}`));
    const before = await swaks(submission(), "--quit-after", "EHLO");
    expect(before.output).toMatch(/250[ -]STARTTLS/);
    expect(before.output).not.toMatch(/250[ -]AUTH/);
    const encrypted = await swaks(submission(), "--tls", "--quit-after", "EHLO");
    expect(encrypted.output).toMatch(/250[ -]AUTH PLAIN/);
  });

  test("submits over TLS with an attachment, and every mailbox behind the mail system gets its own copy", async () => {
    writeFileSync(join(folder, "plan.txt"), "Monday: wire.\nTuesday: wire.\n");
    const sent = await swaks(
      submission(),
      "--tls",
      ...signedIn,
      "--to",
      LIST,
      "--h-Subject",
      "Grüße from swaks",
      "--body",
      "Dear families, here is the plan.",
      "--attach-type",
      "text/plain",
      "--attach",
      `@${join(folder, "plan.txt")}`,
      "--pipeline",
    );
    expect(sent.output).toContain("=== TLS started");
    expect(sent.code).toBe(0);
    const mails = await arrived("here is the plan.", KEPT.length);
    // Its raw UTF-8 goes on in encoded words, which every mail server takes (RFC 2047).
    const encoded = Buffer.from("Grüße from swaks").toString("base64");
    for (const mail of mails) expect(mail).toContain(`Subject: =?utf-8?B?${encoded}?=`);
    expect(mails.map((mail) => /^Envelope-to: (.*)$/m.exec(mail)?.[1]).sort()).toEqual(
      [...KEPT].sort(),
    );
    for (const mail of mails)
      expect(mail).toMatch(
        new RegExp(`^Return-path: <${NAME}\\+b\\.[\\w-]+@${DOMAIN.replace(/\./g, "\\.")}>`, "m"),
      );
    // The mail system has signed its certificate itself, as Debian's do: on loopback that stops no mail, and it comes over TLS.
    expect(system.log().match(/ <= .*\+b\..* X=TLS/g)?.length).toBeGreaterThanOrEqual(KEPT.length);
  });
});

test("a mail reader that we did not write shows the copies, their letters and their parts", async () => {
  await juno.ask("POST", "/api/posts", {
    lists: [listId],
    subject: "Größe der Hüte",
    text: "Bitte Hüte messen – in Zentimetern.",
    key: crypto.randomUUID(),
  });
  await arrived("List-Id: ", 2 * KEPT.length);
  const { code, output } = await read(
    system.mailbox,
    "headers",
    "search :u",
    "print /Größe",
    "print *",
  );
  expect(code).toBe(0);
  expect(output).toContain("Größe der Hüte");
  expect(output).toContain("Bitte Hüte messen – in Zentimetern.");
  expect(output).toContain("Monday: wire.");
});

test("reports of a mail system that we did not write are understood: who is gone, who is full, and who has only to wait", async () => {
  await add(["gone", "full", "slow"].map(at));
  const {
    body: { id },
  } = await juno.ask<{ id: string }>("POST", "/api/posts", {
    lists: [listId],
    subject: "Who gets it?",
    text: "Dear families.",
    key: crypto.randomUUID(),
  });
  await arrived("Who gets it?", KEPT.length);
  const page = async (): Promise<PostPage> =>
    (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body;
  const told = await until("the reports", page, ({ deliveries }) => deliveries.bounced >= 2);
  const of = (name: string) => told.recipients.find(({ address }) => address === at(name));
  expect(of("gone")).toMatchObject({
    state: "bounced",
    reply: expect.stringContaining("no such user here"),
  });
  expect(of("full")).toMatchObject({
    state: "bounced",
    reply: expect.stringContaining("mailbox full"),
  });
  await until(
    "the word that one only waits",
    () => run(sql`select sort from bounce where address = ${at("slow")}`),
    ({ rows }) => rows.length > 0,
  );
  const { troubles } = (await juno.ask<Reach>("GET", "/api/reach")).body;
  expect(troubles.map(({ address, state, sort }) => [address, state, sort]).sort()).toEqual([
    [at("full"), "shaky", "full"],
    [at("gone"), "stopped", "no mailbox"],
  ]);
  expect(of("slow")?.state, "a report of a delay is not the end").not.toBe("bounced");
});

test("a stranger behind that mail system gets its answers: refused addresses from its own system, verdicts too", async () => {
  const stranger = at("oona.stranger");
  await swaks(
    system.port,
    "--from",
    stranger,
    "--to",
    `nobody@${DOMAIN}`,
    "--h-Subject",
    "To nobody",
  );
  expect((await arrived(`To: ${stranger}`, 1))[0]).toMatch(/550 5\.1\.1/);
  await swaks(system.port, "--from", stranger, "--to", LIST, "--h-Subject", "Let me in");
  // The verdict is told at the door, so that system tells its own user, and no note goes to whoever was only named.
  const [, returned] = await arrived(`To: ${stranger}`, 2);
  expect(returned?.replace(/\r?\n\s*/g, " ")).toContain("may write to this list");
  expect(returned).toMatch(/^Return-path: <>/m);
});

test("the exported archive opens in the mail reader with every post in it", async () => {
  const response = await fetch(`${house.url}/api/lists/${listId}/archive.mbox`, {
    headers: { Cookie: juno.cookie },
  });
  const file = join(folder, "archive.mbox");
  writeFileSync(file, Buffer.from(await response.arrayBuffer()));
  const { output } = await read(file, "headers");
  const lines = output.split("\n").filter((line) => /^.[NUO ]?\s+\d+ /.test(line));
  expect(lines).toHaveLength(3);
  for (const subject of ["Grüße from swaks", "Größe der Hüte", "Who gets it?"])
    expect(output).toContain(subject);
});
