import { fork, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { planOf } from "@amigo/core/sheet/readingPlan";
import { readTable } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { freePorts } from "@amigo/server/testing/freePorts";
import { makeTestDatabase } from "@amigo/server/testing/testDatabase";
import { asWorkbook, makeRoster, seeded, sizeOf } from "./roster";

/** How long people work, and how long each looks at a page before the next, in milliseconds. */
const WORK = 60_000;
const LOOKS = { from: 2000, until: 10_000 };
/** How long a page gathers what it is told has changed, and waits at least before it asks again; as `web/app/live.ts`. */
const TOGETHER = 150;
const APART = 1000;
/** On one page of so many somebody puts an address on a list, which every open page is told of. */
const WRITES = 60;

/** What a page asks for, by what it shows, and after changes of what it asks again. */
type Ask = { page: string; paths: string[]; follows: readonly string[] };
/** A request, and how long its answer took in milliseconds. */
interface Took {
  page: string;
  time: number;
  failed: boolean;
  octets: number;
}

/** Measures many people at work in a large school, each with a page that follows what others change, beside one request alone. */
export async function measurePeople(students: number, people: number): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "amigo-bench-"));
  const file = join(folder, "roster.xlsx");
  writeFileSync(file, asWorkbook(makeRoster(sizeOf(students))));
  const database = await makeTestDatabase();
  const [port = 0] = await freePorts(1);
  const house = fork(new URL("./house.ts", import.meta.url), [database.url, String(port)], {
    execArgv: ["--import", "tsx"],
    env: { ...process.env, AMIGO_LOG: "silent" },
  });
  await once(house, "message");
  await tell(house, { do: "read", file, plan: planFor(file) });
  await tell(house, { do: "step" });
  const visitor = await Visitor.signIn(`http://127.0.0.1:${port}`);
  const pages = await pagesOf(visitor);
  const idle = new Map<string, number>();
  for (const [name, make] of pages) {
    const times: number[] = [];
    for (let turn = 0; turn < 6; turn++)
      for (const path of make().paths) times.push((await visitor.ask(name, path)).time);
    idle.set(name, share(times, 0.5));
  }
  await tell(house, { do: "loop" });
  const took: Took[] = [];
  const ends = performance.now() + WORK;
  await Promise.all(
    Array.from({ length: people }, (_, at) => new Worker(visitor, pages, at).work(ends, took)),
  );
  const { time: blocked } = await tell(house, { do: "loop" });
  report(students, people, took, idle, blocked);
  house.send({ do: "end" });
  await once(house, "exit");
  await database.drop();
  rmSync(folder, { recursive: true, force: true });
}

async function tell(child: ChildProcess, message: object): Promise<{ time: number }> {
  const answer = once(child, "message");
  child.send(message);
  return (await answer)[0] as { time: number };
}

function planFor(file: string): string {
  const book = readWorkbook(new Uint8Array(readFileSync(file)));
  const found = book.ok ? readTable(book.workbook) : book;
  if (!found.ok) throw new Error("the made roster is not understood");
  return JSON.stringify(planOf(found.table));
}

/** Somebody who is signed in. */
class Visitor {
  constructor(
    readonly url: string,
    readonly cookie: string,
  ) {}

  static async signIn(url: string): Promise<Visitor> {
    const response = await fetch(`${url}/api/sign-in`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ email: "juno.abara@copperwheel.example", password: DEMO_PASSWORD }),
    });
    return new Visitor(url, response.headers.get("set-cookie")?.split(";")[0] ?? "");
  }

  async ask(page: string, path: string, tags?: Map<string, string>): Promise<Took> {
    const begun = performance.now();
    const tag = tags?.get(path);
    const response = await fetch(`${this.url}${path}`, {
      headers: { Cookie: this.cookie, ...(tag === undefined ? {} : { "If-None-Match": tag }) },
    });
    const { byteLength: octets } = await response.arrayBuffer();
    const fresh = response.headers.get("etag");
    if (fresh !== null) tags?.set(path, fresh);
    const failed = !(response.ok || response.status === 304);
    return { page, time: performance.now() - begun, failed, octets };
  }

  async json<Answer>(path: string): Promise<Answer> {
    const response = await fetch(`${this.url}${path}`, { headers: { Cookie: this.cookie } });
    return (await response.json()) as Answer;
  }

  async keep(list: string, address: string): Promise<Took> {
    const begun = performance.now();
    const response = await fetch(`${this.url}/api/lists/${list}/kept`, {
      method: "POST",
      headers: { Cookie: this.cookie, "Content-Type": "application/json" },
      body: JSON.stringify({ address, side: "on", reason: "A guest" }),
    });
    await response.arrayBuffer();
    return {
      page: "put an address on a list",
      time: performance.now() - begun,
      failed: !response.ok,
      octets: 0,
    };
  }
}

type Pages = ReadonlyMap<string, () => Ask>;

/** What people open, and how often compared with each other: a name stands there once for each time. */
const OPENED = [
  ...["board", "board", "board", "find", "find", "list", "list", "list", "people", "a person"],
  ...["changes", "posts", "write to", "write to", "reach", "sources"],
];

async function pagesOf(visitor: Visitor): Promise<Pages> {
  const random = seeded(5);
  const pick = <Value>(from: readonly Value[]): Value =>
    from[Math.floor(random() * from.length)] as Value;
  const lists = await visitor.json<{ id: string }[]>("/api/lists?q=class");
  const found = await visitor.json<{ families: { people: { id: string }[] }[] }>("/api/people");
  const persons = found.families.flatMap(({ people }) => people.map(({ id }) => id));
  const names = ["ida", "holm", "brandt una", "quist", "niamh", "vanst"];
  const page = (
    name: string,
    paths: () => string[],
    ...follows: readonly string[]
  ): [string, () => Ask] => [name, () => ({ page: name, paths: paths(), follows })];
  return new Map([
    page("board", () => ["/api/board", "/api/pulse"], "board", "rounds", "posts", "people"),
    page("find", () => [`/api/find?q=${encodeURIComponent(pick(names))}`]),
    page(
      "list",
      () => {
        const { id } = pick(lists);
        return [`/api/lists/${id}`, `/api/lists/${id}/members`];
      },
      "board",
      "rounds",
    ),
    page(
      "people",
      () => [`/api/people?q=${encodeURIComponent(pick([...names, "", ""]))}`],
      "people",
      "board",
    ),
    page("a person", () => [`/api/people/${pick(persons)}`], "people", "rounds"),
    page("changes", () => ["/api/rounds/open", "/api/rounds"], "rounds"),
    page("posts", () => ["/api/posts"], "posts"),
    page("write to", () => [
      `/api/targets?q=${encodeURIComponent(pick(["cla", "class 1", "ida"]))}`,
    ]),
    page("reach", () => ["/api/reach"], "people", "board"),
    page("sources", () => ["/api/sources"], "sources"),
  ]);
}

/** One of many at work: opens a page, looks at it, fetches it anew when it has changed, opens the next. */
class Worker {
  private readonly random: () => number;
  private readonly tags = new Map<string, string>();
  private open: Ask = { page: "", paths: [], follows: [] };

  constructor(
    private readonly visitor: Visitor,
    private readonly pages: Pages,
    private readonly at: number,
  ) {
    this.random = seeded(100 + at);
  }

  async work(ends: number, took: Took[]): Promise<void> {
    const listening = new AbortController();
    const live = this.listen(listening.signal, took).catch(() => undefined);
    const lists = await this.visitor.json<{ id: string }[]>("/api/lists?q=class");
    // Not everybody comes at the same moment.
    await pause(this.random() * LOOKS.until);
    for (let turn = 0; performance.now() < ends; turn++) {
      if (this.random() < 1 / WRITES) {
        const list = lists[Math.floor(this.random() * lists.length)];
        took.push(
          await this.visitor.keep(list?.id ?? "", `g${this.at}.${turn}@copperwheel.example`),
        );
      }
      const name = OPENED[Math.floor(this.random() * OPENED.length)] ?? "board";
      this.open = this.pages.get(name)?.() ?? this.open;
      took.push(...(await this.askAll(this.open)));
      await pause(LOOKS.from + this.random() * (LOOKS.until - LOOKS.from));
    }
    listening.abort();
    await live;
  }

  private askAll({ page, paths }: Ask): Promise<Took[]> {
    return Promise.all(paths.map((path) => this.visitor.ask(page, path, this.tags)));
  }

  /** Asks for the open page again whenever something has changed, as a browser does. */
  private async listen(signal: AbortSignal, took: Took[]): Promise<void> {
    const response = await fetch(`${this.visitor.url}/api/events`, {
      headers: { Cookie: this.visitor.cookie },
      signal,
    });
    let waits = false;
    let last = -Infinity;
    for await (const chunk of response.body ?? []) {
      const said = new TextDecoder().decode(chunk as Uint8Array);
      if (waits || !this.open.follows.some((topic) => said.includes(`data: ${topic}\n`))) continue;
      waits = true;
      void pause(Math.max(TOGETHER, last + APART - performance.now())).then(async () => {
        waits = false;
        last = performance.now();
        if (!signal.aborted)
          took.push(...(await this.askAll({ ...this.open, page: `${this.open.page}, again` })));
      });
    }
  }
}

function pause(time: number): Promise<void> {
  return new Promise((resolve) => {
    setTimeout(resolve, time);
  });
}

function share(times: readonly number[], part: number): number {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? 0;
}

function report(
  students: number,
  people: number,
  took: readonly Took[],
  idle: ReadonlyMap<string, number>,
  blocked: number,
): void {
  console.log(
    `\n${people} people at work for ${WORK / 1000} s in a school of ${students.toLocaleString("en-GB")} students: ${took.length.toLocaleString("en-GB")} requests, ${took.filter(({ failed }) => failed).length} failed; the server was busy for ${blocked.toFixed(0)} ms at most without a break`,
  );
  console.log(
    `${"".padEnd(28)}${"requests".padStart(9)}${"alone".padStart(9)}${"half".padStart(9)}${"99%".padStart(9)}${"longest".padStart(9)}${"ratio".padStart(8)}`,
  );
  const line = (name: string, of: readonly Took[], alone: number | undefined): void => {
    const times = of.map(({ time }) => time);
    const late = share(times, 0.99);
    const cell = (time: number): string => time.toFixed(0).padStart(9);
    console.log(
      `${name.padEnd(28)}${String(of.length).padStart(9)}${alone === undefined ? "".padStart(9) : cell(alone)}${cell(share(times, 0.5))}${cell(late)}${cell(share(times, 1))}${alone === undefined ? "" : (late / alone).toFixed(1).padStart(8)}`,
    );
  };
  for (const name of [...new Set(took.map(({ page }) => page))].sort())
    line(
      name,
      took.filter(({ page }) => page === name),
      idle.get(name.replace(", again", "")),
    );
  line("all", took, undefined);
}
