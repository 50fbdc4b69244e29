import { randomUUID } from "node:crypto";
import { sql } from "drizzle-orm";
import { shareRows } from "@amigo/server/sources/shareRows";
import { JUNO, startTestHouse, until, type TestHouse } from "@amigo/server/testing/testHouse";
import { makeRoster, seeded, sizeOf } from "./roster";

const NIGHTS = 200;
const POSTS = 300;
const CHANGED = 0.01;

/** What is counted together; all other tables are the rest. */
const PARTS = {
  imports: ["source", "reading", "reading_row", "reading_fault", "reading_shared", "reading_met"],
  "facts, now and before": ["fact", "fact_change"],
  rounds: ["round", "cause", "round_list", "question", "by_hand"],
  "who was on which list": ["membership", "greeting"],
  "mails and posts": ["message", "post", "post_list", "list_message", "draft"],
  "copies, and their results": ["delivery", "mail_in", "mail_in_part", "bounce"],
  journal: ["journal", "journal_link"],
} as const;

/**
 * Makes a season of a school: an import every night in which some students have changed, each brought in step, and a post on more
 * than every second day. Then tells how much of the database each part takes.
 */
export async function measureYears(students: number): Promise<void> {
  const house = await startTestHouse();
  const juno = await house.signIn(JUNO);
  const begun = await sizes(house);
  const season = new Season(students);
  let source: string | undefined;
  let firstImport = 0;
  const night = async (): Promise<void> => {
    const into = source === undefined ? { name: "Made roster" } : { id: source };
    const read = await house.readLines(juno, season.lines(), into);
    source = read.source;
    if (read.round !== null) await house.step(juno);
    await shareRows(house.amigo.context);
  };
  await night();
  firstImport = total(await sizes(house), PARTS.imports) - total(begun, PARTS.imports);
  for (let at = 1, posts = 0; at < NIGHTS; at++) {
    season.change(CHANGED);
    await night();
    // Only so many posts may go to one list on one day.
    await house.amigo.context.db.execute(sql`update post set at = at - interval '1 day'`);
    for (; posts < (at * POSTS) / (NIGHTS - 1); posts++) await write(posts);
    if (at % 20 === 0) console.log(`  night ${at}`);
  }
  await until(
    "all copies to leave",
    async () =>
      (
        await house.amigo.context.db.execute<{ count: number }>(
          sql`select count(*)::int as count from delivery where state in ('queued', 'sending')`,
        )
      ).rows[0]?.count,
    (count) => count === 0,
  );
  const ended = await sizes(house);
  tell(students, begun, ended);
  const kept = total(ended, PARTS.imports) - total(begun, PARTS.imports);
  console.log(
    `an import in which 1% changed: ${percent((kept - 3 * firstImport) / (NIGHTS - 3) / firstImport)} of the first; each kept whole they took ${((NIGHTS * firstImport) / kept).toFixed(0)} times as much`,
  );
  const unchanged = await sizes(house);
  await night();
  console.log(
    `an import in which nothing changed: ${total(await sizes(house), PARTS.imports) - total(unchanged, PARTS.imports)} octets`,
  );
  await house.close();

  async function write(turn: number): Promise<void> {
    const { body: lists } = await juno.ask<{ id: string; members: number }[]>("GET", "/api/lists");
    const large = lists.filter(({ members }) => members > 10);
    const list = large[turn % large.length];
    const { status, body } = await juno.ask("POST", "/api/posts", {
      lists: [list?.id],
      subject: `News of week ${turn}`,
      text: "What we did this week, and what comes next.\n".repeat(40),
      key: randomUUID(),
    });
    if (status !== 200) throw new Error(`a post was refused: ${status} ${JSON.stringify(body)}`);
  }
}

/** The roster of a season as a sheet, with some students changed every night. */
class Season {
  private readonly random = seeded(11);
  private readonly head: string[];
  private rows: string[][];

  constructor(students: number) {
    const [, , head = [], ...rows] = makeRoster(sizeOf(students));
    this.head = head;
    this.rows = rows;
  }

  lines(): string[] {
    return [this.head, ...this.rows].map((cells) =>
      cells.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(","),
    );
  }

  /** Of a share of the students, the class or an address changes, or they leave and another comes. */
  change(share: number): void {
    this.rows = this.rows.map((cells) => {
      if (this.random() >= share) return cells;
      const other = this.rows[Math.floor(this.random() * this.rows.length)] ?? cells;
      const changed = [...cells];
      const what = Math.floor(this.random() * 3);
      const mark = Math.floor(this.random() * 1e6);
      if (what === 0) [changed[4], changed[5]] = [other[4] ?? "", other[5] ?? ""];
      else if (what === 1) changed[8] = `new.${mark}@lettr.example`;
      else {
        changed[0] = `CW-${1_000_000 + mark}`;
        changed[2] = `${cells[2] ?? ""}-${mark}`;
      }
      return changed;
    });
  }
}

type Sizes = ReadonlyMap<string, number>;

/** The octets of all tables with their indexes, without the room of rows that are gone. */
async function sizes(house: TestHouse): Promise<Sizes> {
  const { pool } = house.amigo.context.connection;
  await pool.query("vacuum full");
  const { rows } = await pool.query<{ name: string; octets: string }>(
    "select relname as name, pg_total_relation_size(relid) as octets from pg_stat_user_tables",
  );
  return new Map(rows.map(({ name, octets }) => [name, Number(octets)]));
}

function total(from: Sizes, tables: readonly string[]): number {
  return tables.reduce((sum, name) => sum + (from.get(name) ?? 0), 0);
}

function tell(students: number, begun: Sizes, ended: Sizes): void {
  const named = new Set<string>(Object.values(PARTS).flat());
  const rest = [...ended.keys()].filter((name) => !named.has(name));
  console.log(
    `\n${students.toLocaleString("en-GB")} students, ${NIGHTS} nightly imports, ${POSTS} posts: MB in all, and for 1,000 students`,
  );
  let sum = 0;
  for (const [part, tables] of [...Object.entries(PARTS), ["the rest", rest] as const]) {
    const octets = total(ended, tables) - total(begun, tables);
    sum += octets;
    console.log(line(part, octets, students));
  }
  console.log(line("together", sum, students));
}

function line(what: string, octets: number, students: number): string {
  const mb = (value: number): string => (value / 1e6).toFixed(1).padStart(9);
  return `  ${what.padEnd(34)}${mb(octets)}${mb((octets * 1000) / students)}`;
}

function percent(share: number): string {
  return `${(share * 100).toFixed(2)}%`;
}
