import { readFileSync } from "node:fs";
import { join } from "node:path";
import nodemailer from "nodemailer";
import { demoHouse } from "@amigo/demo/demoHouse";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { planOf } from "@amigo/core/sheet/readingPlan";
import { readTable } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { readSettings } from "../settings";
import { startAmigo, type RunningAmigo } from "../startAmigo";
import { DEMO_HOUSE, NO_HOUSE } from "./fillings";
import { freePorts } from "./freePorts";
import { startSink, type Sink } from "./sink";
import { makeTestDatabase } from "./testDatabase";
import type { ReadingPlan } from "@amigo/core/sheet/table";

export const JUNO = "juno.abara@copperwheel.example";
export const ODILE = "odile.marchetti@copperwheel.example";
export const RAVI = "ravi.lindqvist@copperwheel.example";

/** The answer to a request of a test: its status and its JSON. */
export interface Answer<Value> {
  status: number;
  body: Value;
}

/** Somebody who asks the API, signed in or not. */
export interface Client {
  cookie: string;
  ask<Value = unknown>(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<Answer<Value>>;
}

/** What a reading answers, or says why not. */
export interface ReadAnswer {
  source: string;
  reading: string;
  round: number | null;
  causes: number;
  same: boolean;
  detail?: string;
}

export interface TestHouse {
  amigo: RunningAmigo;
  sink: Sink;
  url: string;
  client(cookie?: string): Client;
  signIn(email: string): Promise<Client>;
  /** Sends a mail to the port for mail from anywhere, or as an account to the submission port. */
  mail(mail: {
    from: string;
    to: string | string[];
    subject?: string;
    text?: string;
    headers?: Record<string, string>;
    raw?: string;
    returnPath?: string;
    as?: string;
    /** The password of the account, where it is not that of the demo. */
    pass?: string;
  }): Promise<void>;
  /** Reads a sample sheet into a new source, or into one by its id. */
  read(client: Client, file: string, into?: { id: string }): Promise<Answer<ReadAnswer>>;
  /** Reads a sheet of text lines into a new source of a name, or into one by its id; it must succeed. */
  readLines(
    client: Client,
    lines: readonly string[],
    into: { id: string } | { name: string },
    file?: { name?: string; written?: string },
  ): Promise<ReadAnswer>;
  /** Accepts everything of the open round. */
  step(client: Client): Promise<void>;
  /** Waits for a mail to an address that holds some words, and returns it as it came, its soft line breaks undone. */
  mailTo(address: string, words: string): Promise<string>;
  close(): Promise<void>;
}

/** A DNS zone in which there is nothing: tests ask nothing of the network. */
async function emptyZone(name: string): Promise<string[][]> {
  throw Object.assign(new Error(`${name} is not there`), { code: "ENOTFOUND" });
}

/**
 * Starts a house of its own for one test file: database, web, mail ports, worker, and a sink as its relay.
 *
 * @param options `postgres` is the address of a database server other than that of `npm test`
 */
export async function startTestHouse({
  postgres = undefined as string | undefined,
  demo = true,
  roles = "web,mail,worker",
  settings = {} as Record<string, string>,
} = {}): Promise<TestHouse> {
  const [web = 0, smtp = 0, submission = 0] = await freePorts(3);
  const database = await makeTestDatabase({
    server: postgres,
    filling: demo ? DEMO_HOUSE : NO_HOUSE,
  });
  const sink = await startSink();
  const url = `http://localhost:${web}`;
  const amigo = await startAmigo(
    readSettings({
      AMIGO_LOG: process.env.AMIGO_LOG ?? "silent",
      AMIGO_PORT: String(web),
      AMIGO_SMTP_PORT: String(smtp),
      AMIGO_SUBMISSION_PORT: String(submission),
      AMIGO_DATABASE_URL: database.url,
      AMIGO_RELAY: `smtp://127.0.0.1:${sink.port}`,
      AMIGO_URL: url,
      AMIGO_ROLES: roles,
      ...settings,
    }),
    { demo: demoHouse, resolver: emptyZone },
  );

  const client = (cookie = ""): Client => {
    const foundClient: Client = {
      cookie,
      ask: async <Value>(
        method: string,
        path: string,
        body?: unknown,
        headers: Record<string, string> = {},
      ) => {
        const response = await fetch(`${url}${path}`, {
          method,
          headers: {
            ...(foundClient.cookie === "" ? {} : { Cookie: foundClient.cookie }),
            ...(body === undefined || body instanceof FormData
              ? {}
              : { "Content-Type": "application/json" }),
            ...headers,
          },
          ...(body === undefined
            ? {}
            : { body: body instanceof FormData ? body : JSON.stringify(body) }),
          redirect: "manual",
        });
        foundClient.cookie = withCookies(foundClient.cookie, response.headers.getSetCookie());
        const text = await response.text();
        return {
          status: response.status,
          body: (text.startsWith("{") || text.startsWith("[") || text === "null"
            ? JSON.parse(text)
            : text) as Value,
        };
      },
    };
    return foundClient;
  };
  const house: TestHouse = {
    amigo,
    sink,
    url,
    client,
    signIn: async (email) => {
      const foundClient = client();
      const { status } = await foundClient.ask("POST", "/api/sign-in", {
        email,
        password: DEMO_PASSWORD,
      });
      if (status !== 200) throw new Error(`${email} could not sign in: ${status}`);
      return foundClient;
    },
    mail: async ({
      from,
      to,
      subject = "Hello",
      text = "Hello.",
      headers = {},
      raw,
      returnPath,
      as,
      pass = DEMO_PASSWORD,
    }) => {
      const transport = nodemailer.createTransport({
        host: "127.0.0.1",
        port: as === undefined ? smtp : submission,
        ignoreTLS: true,
        ...(as === undefined ? {} : { auth: { user: as, pass } }),
      });
      try {
        const envelope = { from: returnPath ?? from, to };
        await transport.sendMail(
          raw === undefined ? { from, to, subject, text, headers, envelope } : { raw, envelope },
        );
      } finally {
        transport.close();
      }
    },
    read: async (item, file, into) => {
      const bytes = readFileSync(join(SAMPLES_FOLDER, file));
      const form = new FormData();
      form.set("file", new File([new Uint8Array(bytes)], file));
      form.set("plan", JSON.stringify(proposedPlan(bytes)));
      if (into === undefined) form.set("name", file.replace(/\..*/, ""));
      return item.ask(
        "POST",
        into === undefined ? "/api/sources" : `/api/sources/${into.id}/readings`,
        form,
      );
    },
    readLines: async (item, lines, into, { name = "roster.csv", written = "" } = {}) => {
      const bytes = new TextEncoder().encode(lines.join("\n"));
      const form = new FormData();
      form.set("file", new File([bytes], name));
      form.set("plan", JSON.stringify(proposedPlan(bytes)));
      form.set("written", written);
      if ("name" in into) form.set("name", into.name);
      const { status, body } = await item.ask<ReadAnswer>(
        "POST",
        "name" in into ? "/api/sources" : `/api/sources/${into.id}/readings`,
        form,
      );
      if (status !== 200) throw new Error(`the sheet was not read: ${status} ${body.detail ?? ""}`);
      return body;
    },
    step: async (item) => {
      const { body } = await item.ask<{
        number: number;
        version: number;
        guards: { id: string; count: number }[];
      }>("GET", "/api/rounds/open");
      const { status, body: outcome } = await item.ask("POST", "/api/rounds/open/step", {
        round: body.number,
        version: body.version,
        passed: Object.fromEntries(body.guards.map(({ id, count }) => [id, count])),
      });
      if (status !== 200)
        throw new Error(`the round was not carried out: ${JSON.stringify(outcome)}`);
    },
    mailTo: async (address, words) => {
      const found = (): string[] =>
        sink.mails
          .filter(({ to }) => to === address)
          .map(({ raw }) => raw.replace(/=\r\n/g, ""))
          .filter((raw) => raw.includes(words));
      return (
        (
          await until(`a mail to ${address} with "${words}"`, found, (mails) => mails.length > 0)
        )[0] ?? ""
      );
    },
    close: async () => {
      await amigo.close();
      await sink.close();
      await database.drop();
    },
  };
  return house;
}

/** The cookies of a browser after an answer has set some and removed others (RFC 6265, section 5.3). */
function withCookies(before: string, set: readonly string[]): string {
  const cookies = new Map(
    before.split("; ").flatMap((item) => (item === "" ? [] : [[item.split("=")[0] ?? "", item]])),
  );
  for (const line of set) {
    const found = line.split(";")[0] ?? "";
    if (/;\s*max-age=0\b/i.test(line)) cookies.delete(found.split("=")[0] ?? "");
    else cookies.set(found.split("=")[0] ?? "", found);
  }
  return [...cookies.values()].join("; ");
}

/** The plan that Amigo itself proposes for a file. */
export function proposedPlan(bytes: Uint8Array): ReadingPlan {
  const book = readWorkbook(bytes);
  if (!book.ok) return { sheet: "", headerRow: 0, columns: [] };
  const found = readTable(book.workbook);
  if (!found.ok) return { sheet: book.workbook.sheets[0]?.name ?? "", headerRow: 0, columns: [] };
  return planOf(found.table);
}

/** The longest pause between two looks, in milliseconds: looking all the time would slow down what is waited for. */
const LONGEST_PAUSE = 160;

/**
 * Asks until the answer satisfies, for things that happen in the background.
 *
 * @param patience for how long, in milliseconds; only a test that fails waits to the end
 */
export async function until<Value>(
  what: string,
  ask: () => Value | Promise<Value>,
  satisfied: (value: Value) => boolean,
  patience = 90_000,
): Promise<Value> {
  const end = Date.now() + patience;
  for (let pause = 10; ; pause = Math.min(pause * 2, LONGEST_PAUSE)) {
    const value = await ask();
    if (satisfied(value)) return value;
    if (Date.now() > end)
      throw new Error(
        `${what} did not come about; last seen: ${JSON.stringify(value)?.slice(0, 500)}`,
      );
    await new Promise((resolve) => {
      setTimeout(resolve, pause);
    });
  }
}
