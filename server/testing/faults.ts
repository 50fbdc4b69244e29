import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import nodemailer from "nodemailer";
import { sql } from "drizzle-orm";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { startPostgres } from "../../scripts/postgres.mjs";
import { bundleOf } from "../../scripts/run.mjs";
import { freePorts } from "./freePorts";
import { startSink } from "./sink";
import { JUNO, proposedPlan, startTestHouse, until, type TestHouse } from "./testHouse";

const NAME = "ml-wire-parents-2627";
const LIST = `${NAME}@lists.copperwheel.example`;
/** How many families are on the list that is written to. Imports change another class. */
const FAMILIES = 60;
const CONNECTIONS = 5;
/** How long claims hold, in seconds, and how long a suspended process sleeps, in milliseconds: longer than that. */
const CLAIM_SECONDS = 3;
const SLEEP = 5000;
/** The pause between two faults, and between two things that somebody does, in milliseconds. */
const CALM = 1500;
const BREATH = 150;

/** What goes wrong. */
export const FAULTS = [
  "a process is killed",
  "a process is stopped",
  "a process is suspended",
  "both processes are killed",
  "the database crashes",
  "the relay is away",
] as const;
export type FaultName = (typeof FAULTS)[number];

/** What was acknowledged, and what of it isn't there, is there more than once, or doesn't come to an end. */
export interface Tally {
  faults: Record<FaultName, number>;
  rows: { of: string; acknowledged: number; lost: number; doubled: number; stuck: number }[];
  /** How many copies may be doubled: those that the relay took and that were not written down yet. */
  onTheWire: number;
}

interface Running {
  child: ChildProcess;
  url: string;
  submission: number;
}

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, milliseconds);
  });

/**
 * Lets two processes of Amigo work under load while one fault after another happens to them, their database and their relay, then
 * waits until all is calm and counts.
 *
 * @param faults what happens, in this order
 */
export async function workUnderFaults(
  faults: readonly FaultName[],
  tell: (line: string) => void = () => undefined,
): Promise<Tally> {
  const folder = mkdtempSync(join(tmpdir(), "amigo-faults-"));
  chmodSync(folder, 0o755);
  const postgres = await startPostgres(join(folder, "postgres"));
  const house = await startTestHouse({ postgres: postgres.url("postgres"), roles: "web" });
  const world = new World(house, postgres);
  try {
    await world.prepare();
    const load = world.work();
    for (const [at, fault] of faults.entries()) {
      tell(`${at + 1}. ${fault}`);
      await pause(CALM * (0.5 + Math.random()));
      await world.suffer(fault);
    }
    await pause(CALM);
    world.isOver = true;
    await load;
    return await world.count(faults);
  } finally {
    await world.end();
    await house.close();
    postgres.remove();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Names that nobody takes for one another. */
const PARTS = ["Bar", "Lin", "Mos", "Tev", "Rak", "Dun", "Fel", "Gor", "Hap", "Wis"];
const nameOf = (at: number): string =>
  `${PARTS[at % 10] ?? ""}${(PARTS[Math.floor(at / 10) % 10] ?? "").toLowerCase()}`;

/** A line of the roster; children of Stilts come and go, those of Wire Walk stay. */
const line = (at: number, of: string): string => {
  const [initial, family] = [of.charAt(0), `${nameOf(at)}${of === "Stilts" ? "stead" : ""}`];
  return `${initial}-${1000 + at},${family},${nameOf(at + 37)},Mill Loft,${of},${nameOf(at + 71)} ${family},${initial.toLowerCase()}${at}@lettr.example`;
};

class World {
  isOver = false;
  private readonly processes: Running[] = [];
  private readonly slots: { web: number; smtp: number; submission: number }[] = [];
  private cookie = "";
  private listId = "";
  private keptListId = "";
  private sourceId = "";
  /** What was acknowledged. */
  private readonly mails = new Set<string>();
  private readonly posts = new Set<string>();
  private readonly kept = new Set<string>();
  private rounds = 0;
  /** The children of Stilts as the last import that was acknowledged has them. */
  private stilts = 0;

  constructor(
    private readonly house: TestHouse,
    private readonly postgres: Awaited<ReturnType<typeof startPostgres>>,
  ) {}

  async prepare(): Promise<void> {
    const { house } = this;
    const juno = await house.signIn(JUNO);
    this.cookie = juno.cookie;
    const { source } = await house.readLines(juno, this.roster(1), { name: "Roster" });
    this.sourceId = source;
    await house.step(juno);
    const idOf = async (words: string): Promise<string> =>
      (await juno.ask<{ id: string }[]>("GET", `/api/lists?q=${words}`)).body[0]?.id ?? "";
    this.listId = await idOf("wire guardians");
    this.keptListId = await idOf("stilts guardians");
    const { db } = house.amigo.context;
    // The processes here are of the program for real houses.
    await db.execute(sql`update house set demo = false`);
    const ports = await freePorts(6);
    for (const at of [0, 3])
      this.slots.push({
        web: ports[at] ?? 0,
        smtp: ports[at + 1] ?? 0,
        submission: ports[at + 2] ?? 0,
      });
    for (const at of this.slots.keys()) this.processes[at] = await this.start(at);
  }

  private roster(stilts: number): string[] {
    return [
      "Student no.,Surname,First name,Site,Class,Parent 1,Email 1",
      ...Array.from({ length: FAMILIES }, (_, at) => line(at, "Wire Walk")),
      ...Array.from({ length: stilts }, (_, at) => line(at, "Stilts")),
    ];
  }

  private async start(at: number): Promise<Running> {
    const { databaseUrl, data, relay } = this.house.amigo.context.settings;
    const slot = this.slots[at] ?? { web: 0, smtp: 0, submission: 0 };
    for (;;) {
      const child = spawn(process.execPath, [bundleOf("server/main.ts")], {
        stdio: ["ignore", "ignore", "ignore", "ipc"],
        env: {
          ...process.env,
          AMIGO_LOG: "silent",
          AMIGO_DATABASE_URL: databaseUrl,
          AMIGO_RELAY: relay,
          AMIGO_DATA: data,
          AMIGO_PORT: String(slot.web),
          AMIGO_SMTP_PORT: String(slot.smtp),
          AMIGO_SUBMISSION_PORT: String(slot.submission),
          AMIGO_URL: this.house.url,
          AMIGO_CLAIM_SECONDS: String(CLAIM_SECONDS),
          AMIGO_CONNECTIONS: String(CONNECTIONS),
        },
      });
      const isUp = await Promise.race([
        once(child, "message").then(() => true),
        once(child, "exit").then(() => false),
      ]);
      // The database may be away at this moment; whoever runs a service starts it again.
      if (isUp) return { child, url: `http://localhost:${slot.web}`, submission: slot.submission };
      await pause(200);
    }
  }

  private async kill(at: number, by: "SIGKILL" | "SIGTERM"): Promise<void> {
    const child = this.processes[at]?.child;
    if (child === undefined) return;
    const gone = once(child, "exit");
    child.kill(by);
    await gone;
    this.processes[at] = await this.start(at);
  }

  async suffer(fault: FaultName): Promise<void> {
    const at = Math.floor(Math.random() * this.processes.length);
    if (fault === "a process is killed") await this.kill(at, "SIGKILL");
    else if (fault === "a process is stopped") await this.kill(at, "SIGTERM");
    else if (fault === "both processes are killed")
      await Promise.all([...this.processes.keys()].map((one) => this.kill(one, "SIGKILL")));
    else if (fault === "the database crashes") this.postgres.crash();
    else if (fault === "a process is suspended") {
      this.processes[at]?.child.kill("SIGSTOP");
      await pause(SLEEP);
      this.processes[at]?.child.kill("SIGCONT");
    } else {
      const { port, mails } = this.house.sink;
      await this.house.sink.close();
      await pause(CALM);
      this.house.sink = await startSink(port);
      this.house.sink.mails.push(...mails);
    }
  }

  /** Does what people do, all at once, until it is over. What isn't acknowledged is done again, by the same key. */
  async work(): Promise<void> {
    const again = async (one: (turn: number) => Promise<void>): Promise<void> => {
      for (let turn = 0; !this.isOver; turn++) {
        await one(turn);
        await pause(BREATH);
      }
    };
    await Promise.all([
      again(() => this.letDayPass()),
      again((turn) => this.handIn(`Mail ${turn}.`)),
      again((turn) => this.post(`Post ${turn}.`)),
      again((turn) => this.keep(`kept${turn}@oakmail.example`)),
      again((turn) => this.follow(1 + (turn % 7))),
    ]);
  }

  /** Makes posts a day older: a list's rules limit how many go out in a day. */
  private async letDayPass(): Promise<void> {
    await this.house.amigo.context.db
      .execute(sql`update post set at = at - interval '1 day' where at > now() - interval '1 day'`)
      .catch(() => undefined);
    await pause(CALM);
  }

  /** Tries until it works, at one process and the other. */
  private async insist(what: (at: Running) => Promise<boolean>): Promise<void> {
    for (let tries = 0; ; tries++) {
      const running = this.processes[tries % this.processes.length];
      if (running !== undefined && (await what(running).catch(() => false))) return;
      await pause(100);
    }
  }

  private async ask(
    { url }: Running,
    method: string,
    path: string,
    body?: object,
  ): Promise<{ status: number; body: Record<string, unknown> | null }> {
    const response = await fetch(`${url}${path}`, {
      method,
      signal: AbortSignal.timeout(30_000),
      headers: {
        Cookie: this.cookie,
        ...(body === undefined || body instanceof FormData
          ? {}
          : { "Content-Type": "application/json" }),
      },
      ...(body === undefined
        ? {}
        : { body: body instanceof FormData ? body : JSON.stringify(body) }),
    });
    return {
      status: response.status,
      body: (await response.json()) as Record<string, unknown> | null,
    };
  }

  private async handIn(subject: string): Promise<void> {
    await this.insist(async ({ submission }) => {
      const transport = nodemailer.createTransport({
        ...{ host: "127.0.0.1", port: submission, ignoreTLS: true },
        auth: { user: JUNO, pass: DEMO_PASSWORD },
        ...{ connectionTimeout: 2000, socketTimeout: 20_000 },
      });
      try {
        await transport.sendMail({
          ...{ from: JUNO, to: LIST, subject, text: "Dear families." },
          messageId: `<${subject.replace(/\W/g, ".")}@copperwheel.example>`,
        });
        return true;
      } finally {
        transport.close();
      }
    });
    this.mails.add(subject);
  }

  private async post(subject: string): Promise<void> {
    const key = crypto.randomUUID();
    await this.insist(async (at) => {
      const { status } = await this.ask(at, "POST", "/api/posts", {
        ...{ lists: [this.listId], subject, text: "Dear families.", key },
      });
      return status === 200;
    });
    this.posts.add(subject);
  }

  private async keep(address: string): Promise<void> {
    await this.insist(async (at) => {
      const { status } = await this.ask(at, "POST", `/api/lists/${this.keptListId}/kept`, {
        ...{ address, side: "on", reason: "drives the van" },
      });
      return status === 200;
    });
    this.kept.add(address);
  }

  /** Imports another roster and brings the lists in step with it. */
  private async follow(stilts: number): Promise<void> {
    const bytes = new TextEncoder().encode(this.roster(stilts).join("\n"));
    await this.insist(async (at) => {
      const form = new FormData();
      form.set("file", new File([bytes], "roster.csv"));
      form.set("plan", JSON.stringify(proposedPlan(bytes)));
      form.set("written", new Date().toISOString());
      return (
        (await this.ask(at, "POST", `/api/sources/${this.sourceId}/readings`, form)).status === 200
      );
    });
    this.stilts = stilts;
    await this.insist(async (at) => {
      const { status, body } = await this.ask(at, "GET", "/api/rounds/open");
      if (status !== 200) return false;
      // No round is open where nothing differs, or where the answer to the last try was lost.
      if (body === null) return true;
      const guards = body["guards"] as { id: string; count: number }[];
      const step = await this.ask(at, "POST", "/api/rounds/open/step", {
        ...{ round: body["number"], version: body["version"] },
        passed: Object.fromEntries(guards.map(({ id, count }) => [id, count])),
      });
      return step.status === 200;
    });
    this.rounds++;
  }

  /** Waits until nothing moves any more, and counts. */
  async count(faults: readonly FaultName[]): Promise<Tally> {
    const { db } = this.house.amigo.context;
    const number = async (query: ReturnType<typeof sql>): Promise<number> =>
      Number((await db.execute<{ count: string }>(query)).rows[0]?.count ?? 0);
    const waiting = sql`select count(*) as count from delivery where state in ('queued', 'sending', 'deferred')`;
    const stuck = await until(
      "an empty queue",
      async () => {
        // What failed twice in the midst of the faults rests for minutes before its next try: that time is not waited for.
        await db.execute(sql`update delivery set next_at = now() where state = 'deferred'`);
        return number(waiting);
      },
      (left) => left === 0,
      120_000,
    ).catch(() => number(waiting));
    const rows: Tally["rows"] = [];
    for (const [of, subjects] of [
      ["copies of mails by SMTP", this.mails],
      ["copies of posts from the page", this.posts],
    ] as const) {
      const counts = this.arrivedOf(subjects);
      const wanted = subjects.size * FAMILIES;
      rows.push({
        of,
        acknowledged: wanted,
        lost: wanted - counts.size,
        doubled: [...counts.values()].reduce((sum, times) => sum + times - 1, 0),
        stuck: of === "copies of mails by SMTP" ? stuck : 0,
      });
    }
    const members = await db.execute<{ address: string }>(
      sql`select address from membership where valid_until is null and list_id = ${this.keptListId}`,
    );
    const found = members.rows.filter(({ address }) => this.kept.has(address));
    rows.push({
      of: "manual exceptions",
      acknowledged: this.kept.size,
      lost: this.kept.size - found.length,
      doubled: found.length - new Set(found.map(({ address }) => address)).size,
      stuck: 0,
    });
    const stilts = await number(
      sql`select count(*) as count from membership where valid_until is null and address ~ '^s[0-9]+@lettr' and list_id in (select id from list where name like '%parents%')`,
    );
    rows.push({
      of: "imports brought in step",
      acknowledged: this.rounds,
      lost: stilts === this.stilts ? 0 : 1,
      doubled: await number(
        sql`select count(*) as count from (select from membership where valid_until is null group by list_id, address having count(*) > 1) as twice`,
      ),
      stuck: await number(sql`select count(*) as count from round where closed_at is null`),
    });
    const happened = Object.fromEntries(
      FAULTS.map((name) => [name, faults.filter((fault) => fault === name).length]),
    ) as Tally["faults"];
    return { faults: happened, rows, onTheWire: faults.length * 2 * 5 * CONNECTIONS };
  }

  private arrivedOf(subjects: ReadonlySet<string>): Map<string, number> {
    const counts = new Map<string, number>();
    for (const { to, raw } of this.house.sink.mails) {
      const subject = /^Subject: (.*)\r$/m.exec(raw)?.[1] ?? "";
      if (!subjects.has(subject)) continue;
      const key = `${subject} ${to}`;
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    return counts;
  }

  async end(): Promise<void> {
    this.isOver = true;
    for (const { child } of this.processes) {
      if (child.exitCode !== null || child.signalCode !== null) continue;
      const gone = once(child, "exit");
      child.kill("SIGKILL");
      await gone;
    }
  }
}
