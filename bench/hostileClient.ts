import { readdirSync, readFileSync } from "node:fs";
import { createConnection } from "node:net";
import { join } from "node:path";
import { ALL_ENDPOINTS } from "@amigo/contract/endpoints";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { proposedPlan } from "@amigo/server/testing/testHouse";
import type { HealthTold, HostileTold } from "./hostile";

interface Target {
  url: string;
  cookie: string;
  smtp: number;
  submission: number;
  until: number;
}

const AT_ONCE = 4;
const LIST = "ml-wire-parents-2627@lists.copperwheel.example";

const pick = <Value>(values: readonly Value[]): Value =>
  values[Math.floor(Math.random() * values.length)] as Value;
const upTo = (most: number): number => Math.floor(Math.random() * most);

/** Some octets changed, left out, doubled or put in elsewhere. */
function mutated(bytes: Buffer): Buffer {
  let made = Buffer.from(bytes);
  for (let turn = upTo(8) + 1; turn > 0; turn--) {
    const at = upTo(made.length);
    const length = upTo(pick([4, 64, 4096]));
    const way = upTo(4);
    if (way === 0)
      for (let to = at; to < Math.min(at + length, made.length); to++) made[to] = upTo(256);
    else if (way === 1) made = Buffer.concat([made.subarray(0, at), made.subarray(at + length)]);
    else if (way === 2) made = Buffer.concat([made.subarray(0, at + length), made.subarray(at)]);
    else
      made = Buffer.concat([
        made.subarray(0, at),
        Buffer.from(pick(SIGNS).repeat(upTo(pick([10, 2_000, 100_000])))),
        made.subarray(at),
      ]);
  }
  return made;
}

const SIGNS = [
  "\n",
  "\r\n",
  " ",
  "<div>",
  "[",
  "{",
  '"',
  "=",
  ",",
  "\u0000",
  "@",
  "--- ",
  "<!--",
  "(",
  "é",
];

/** Everything that changes something, but for what would sign the attacker out. */
const CHANGING = ALL_ENDPOINTS.filter(
  ({ method, path }) => method !== "get" && !/sign-|session|demo|set-up|password/.test(path),
).map(({ method, path }) => ({ method: method.toUpperCase(), path }));
const BODIES = [
  '{"name":"Wire","title":"Wire","audience":"guardians of students in \\"Wire Walk\\"","rules":{"post":"leads"},"lists":["x"]}',
  '{"lists":["00000000-0000-4000-8000-000000000000"],"subject":"Rehearsal","text":"Dear {given}","html":"<p>Dear <b>all</b></p>","key":"00000000-0000-4000-8000-000000000000"}',
  '{"addresses":["una@oakmail.example","x"],"how":"quietly","reason":"x","lastDay":"2027-01-31"}',
  '{"id":1,"ids":[1,2],"accepted":true,"version":3,"edits":[{"what":"rename","list":"x","name":"y"}],"cells":{"0":"=1+1"}}',
];

const files = readdirSync(SAMPLES_FOLDER)
  .filter((name) => /\.(xlsx|ods|xls|csv|tsv|txt)$/.test(name))
  .map((name) => {
    const bytes = readFileSync(join(SAMPLES_FOLDER, name));
    return { name, bytes, plan: JSON.stringify(proposedPlan(new Uint8Array(bytes))) };
  });
const mails = [
  `From: una@oakmail.example\r\nTo: ${LIST}\r\nSubject: Rehearsal\r\nMIME-Version: 1.0\r\nContent-Type: multipart/alternative; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nDear all\r\n--b\r\nContent-Type: text/html\r\n\r\n<div><p>Dear <b>all</b></p></div>\r\n--b--\r\n`,
  `From: MAILER-DAEMON@mx.oakmail.example\r\nSubject: Undelivered\r\nContent-Type: multipart/report; report-type=delivery-status; boundary=r\r\n\r\n--r\r\nContent-Type: text/plain\r\n\r\n550 5.1.1 user unknown\r\n--r\r\nContent-Type: message/delivery-status\r\n\r\nFinal-Recipient: rfc822; a@oakmail.example\r\nAction: failed\r\nStatus: 5.1.1\r\n--r--\r\n`,
  `DKIM-Signature: v=1; a=rsa-sha256; c=relaxed/relaxed; d=oakmail.example; s=k; h=from:to; bh=x; b=y\r\nFrom: una@oakmail.example\r\nSubject: Signed\r\n\r\nHello\r\n`,
];

const tasks: Record<string, (target: Target) => Promise<string | undefined>> = {
  "sheets, signed in": async ({ url, cookie }) => {
    const { name, bytes, plan } = pick(files);
    const form = new FormData();
    form.set("file", new File([new Uint8Array(mutated(bytes))], name));
    form.set("name", `Hostile ${Math.random()}`);
    const text = Buffer.from(plan);
    form.set("plan", (upTo(4) === 0 ? mutated(text) : text).toString());
    return statusOf(
      await fetch(`${url}/api/sources`, {
        method: "POST",
        headers: { Cookie: cookie },
        body: form,
      }),
      "POST /api/sources",
    );
  },
  "bodies, from nobody": async ({ url }) => {
    const path = pick([
      "/api/sign-in",
      "/api/set-up",
      "/in/x",
      "/f/x",
      "/f/x/check",
      "/held/x",
      "/leave/x",
      "/yes/x",
      "/mine/x",
      "/api/member/link",
      "/api/sign-in/code",
      "/api/sign-in/passkey",
      "/x",
    ]);
    return statusOf(
      await fetch(`${url}${path}`, {
        method: "POST",
        headers: {
          "Content-Type": pick([
            "application/json",
            "application/x-www-form-urlencoded",
            "multipart/form-data; boundary=b",
            "x",
          ]),
          Connection: "close",
          // From another network each time, so that the limits on tries don't keep the input from being read.
          "X-Forwarded-For": somewhere(),
        },
        body: new Uint8Array(
          mutated(
            Buffer.from(
              pick([
                '{"email":"a@b.example","password":"x"}',
                "decision=out&word=x",
                "--b\r\n\r\nx\r\n--b--",
              ]),
            ),
          ),
        ),
      }),
      `POST ${path}`,
    );
  },
  "queries, signed in": async ({ url, cookie }) => {
    const path = pick([
      "/api/find",
      "/api/people",
      "/api/lists",
      "/api/targets",
      "/api/posts",
      "/api/journal",
    ]);
    const q = encodeURIComponent(
      mutated(Buffer.from("canary wire")).toString("latin1").slice(0, 3000),
    );
    return statusOf(
      await fetch(`${url}${path}?q=${q}`, { headers: { Cookie: cookie } }),
      `GET ${path}`,
    );
  },
  "JSON, signed in": async ({ url, cookie }) => {
    const { method, path } = pick(CHANGING);
    return statusOf(
      await fetch(
        `${url}${path.replace(/\{\w+\}/g, () => pick([crypto.randomUUID(), "1", "x"]))}`,
        {
          method,
          headers: { Cookie: cookie, "Content-Type": "application/json" },
          body: new Uint8Array(mutated(Buffer.from(pick(BODIES)))),
        },
      ),
      `${method} ${path}`,
    );
  },
  "nonsense at the port for mail programs": ({ submission }) =>
    talk(
      submission,
      mutated(
        Buffer.from(
          `EHLO x\r\nAUTH PLAIN ${Buffer.from("\u0000a@b.example\u0000x").toString("base64")}\r\nAUTH LOGIN\r\nYQ==\r\nYg==\r\nMAIL FROM:<a@b.example>\r\nQUIT\r\n`,
        ),
      ),
    ),
  "mails over SMTP": ({ smtp }) => sendMail(smtp, mutated(Buffer.from(pick(mails)))),
  "nonsense at the SMTP port": ({ smtp }) =>
    talk(
      smtp,
      mutated(
        Buffer.from(
          `EHLO x\r\nMAIL FROM:<a@b.example>\r\nRCPT TO:<${LIST}>\r\nDATA\r\nx\r\n.\r\nQUIT\r\n`,
        ),
      ),
    ),
};

const somewhere = (): string => `198.51.${upTo(256)}.${upTo(256)}`;

/** How often each status was answered over HTTP. */
const statuses: Record<string, number> = {};

async function statusOf(answer: Response, what: string): Promise<string | undefined> {
  const text = await answer.text();
  statuses[answer.status] = (statuses[answer.status] ?? 0) + 1;
  return answer.status >= 500 ? `${what}: ${answer.status} ${text.slice(0, 150)}` : undefined;
}

function sendMail(port: number, raw: Buffer): Promise<string | undefined> {
  const lines = raw.toString("latin1").replace(/\r?\n/g, "\r\n").replace(/^\./gm, "..");
  return talk(
    port,
    Buffer.from(
      `EHLO x\r\nMAIL FROM:<una@oakmail.example>\r\nRCPT TO:<${LIST}>\r\nDATA\r\n${lines}\r\n.\r\nQUIT\r\n`,
      "latin1",
    ),
  );
}

/** Says something to a port and hears it out; a 4xx that tells of a fault of ours is a failure. */
function talk(port: number, octets: Buffer): Promise<string | undefined> {
  return new Promise((resolve) => {
    let heard = "";
    const socket = createConnection(port, "127.0.0.1", () => socket.end(octets));
    socket.setTimeout(60_000, () => socket.destroy());
    socket.on("data", (data) => (heard += data.toString("latin1")));
    socket.on("error", () => undefined);
    socket.on("close", () => resolve(/^451.*$/m.exec(heard)?.[0]));
  });
}

async function attack(target: Target): Promise<HostileTold> {
  const told: HostileTold = { sent: {}, statuses: {}, failed: [] };
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (Date.now() < target.until) {
        const what = pick(Object.keys(tasks));
        const failure = await tasks[what]?.(target).catch((thrown: Error) =>
          /fetch failed|terminated/.test(thrown.message) ? undefined : thrown.message,
        );
        told.sent[what] = (told.sent[what] ?? 0) + 1;
        if (failure !== undefined) told.failed.push(failure);
      }
    }),
  );
  return { ...told, statuses };
}

async function health({ url, until }: Target): Promise<HealthTold> {
  const told = { asked: 0, failed: 0, slowest: 0 };
  while (Date.now() < until) {
    const from = performance.now();
    const is = await fetch(`${url}/api/health`).then(
      async (answer) => ((await answer.json()) as { database: boolean }).database,
      () => false,
    );
    told.asked++;
    if (!is) told.failed++;
    told.slowest = Math.max(told.slowest, performance.now() - from);
    await new Promise((resolve) => {
      setTimeout(resolve, 100);
    });
  }
  return told;
}

process.on("message", (target: Target) => {
  void (process.argv[2] === "attack" ? attack(target) : health(target)).then((told) =>
    process.send?.(told),
  );
});
