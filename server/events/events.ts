import { randomBytes } from "node:crypto";
import pg from "pg";
import type { Logger } from "pino";
import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { describeFailure } from "../describeFailure";

/** What changed, so that pages know what to fetch again. */
export const TOPICS = [
  "board",
  "rounds",
  "sources",
  "posts",
  "queue",
  "house",
  "people",
  "greetings",
  "forms",
  "intakes",
  "dates",
  "shelf",
  "posted",
  "jobs",
] as const;

export type Topic = (typeof TOPICS)[number];

/** The channel of LISTEN and NOTIFY by which all processes hear. */
export const CHANNEL = "amigo";

/** How often it is tried whether the line still hears, in milliseconds. What is not heard by the next time is not heard at all. */
const BEAT_EVERY = 10_000;
/** For how many of these times a database that hasn't taken it yet is waited for; then it is told once more, by another connection. */
const PATIENCE = 6;
/** How far apart open pages are told of a change, at most; and within which time all are told. In milliseconds. */
const PAGES_APART = 40;
const ALL_PAGES = 4000;
/** After how long a line that broke is made anew: soon at first, then more and more seldom. In milliseconds. */
const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 30_000;

/**
 * Hears what changed, from this process and all others, over the database's LISTEN and NOTIFY. Such a line can go silent without
 * breaking, behind a proxy or a pooler of connections: so it regularly tells itself something by another connection, and is
 * made anew where that doesn't come. Whatever may have been missed meanwhile is told once it hears again.
 */
export class Events {
  private client: pg.Client | undefined;
  private closed = false;
  private retry: NodeJS.Timeout | undefined;
  private beating: NodeJS.Timeout | undefined;
  private pause = FIRST_PAUSE;
  /** What it told itself last: not yet told, told and not heard so far, or nothing that it waits for. */
  private beatState: "telling" | "told" | "none" = "none";
  private waited = 0;
  private readonly listeners = new Set<(topic: Topic) => void>();
  private readonly pages = new Set<(topic: Topic) => void>();
  /** When each topic was heard last, and since when all of them are heard. */
  private readonly heard = new Map<Topic, number>();
  private hearingSince = Infinity;
  /** A channel of this process's own, for what it tells itself. */
  private readonly pulse = `${CHANNEL}_${randomBytes(9).toString("hex")}`;

  /**
   * @param url   the database itself, not a pooler before it
   * @param db    the connections by which others tell what changed
   * @param every how often it is tried whether the line still hears, in milliseconds
   */
  constructor(
    private readonly url: string,
    private readonly db: Queries,
    private readonly log: Logger,
    private readonly every = BEAT_EVERY,
  ) {}

  /** @throws Error where the database doesn't answer */
  async start(): Promise<void> {
    await this.listen();
    this.beating = setInterval(() => this.beat(), this.every);
    this.beating.unref();
  }

  /** Calls back at every change until the answer is called. */
  on(listener: (topic: Topic) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /**
   * The same for an open page: pages are told one after another, so that they don't all ask for what has changed at once. Whoever
   * made the change doesn't wait: their page asks by itself.
   */
  onPage(listener: (topic: Topic) => void): () => void {
    this.pages.add(listener);
    return () => this.pages.delete(listener);
  }

  /** Whether changes are heard. */
  isHearing(): boolean {
    return this.hearingSince !== Infinity;
  }

  /** What changed since a moment, in milliseconds since 1970; everything, where that was before all was heard. */
  since(moment: number): readonly Topic[] {
    return moment < this.hearingSince
      ? TOPICS
      : TOPICS.filter((topic) => (this.heard.get(topic) ?? 0) >= moment);
  }

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.retry);
    clearInterval(this.beating);
    this.listeners.clear();
    this.pages.clear();
    await this.client?.end().catch(() => undefined);
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({
      connectionString: this.url,
      keepAlive: true,
      connectionTimeoutMillis: 10_000,
    });
    client.on("error", (failure) => this.lose(client, describeFailure(failure)));
    client.on("end", () => this.lose(client, "the database closed it"));
    client.on("notification", ({ channel, payload }) => this.hear(channel, payload));
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      await client.query(`listen ${this.pulse}`);
    } catch (failure) {
      client.end().catch(() => undefined);
      throw failure;
    }
    this.client = client;
    this.beatState = "none";
    this.hearingSince = Date.now();
    this.beat();
  }

  private hear(channel: string, payload: string | undefined): void {
    if (channel === this.pulse) {
      this.beatState = "none";
      this.pause = FIRST_PAUSE;
      return;
    }
    const topic = TOPICS.find((candidate) => candidate === payload) ?? "board";
    this.heard.set(topic, Date.now());
    this.tell(topic);
  }

  private tell(topic: Topic): void {
    for (const listener of this.listeners) listener(topic);
    const apart = Math.min(PAGES_APART, ALL_PAGES / Math.max(1, this.pages.size));
    let turn = 0;
    for (const page of this.pages) {
      const tell = (): void => {
        if (this.pages.has(page)) page(topic);
      };
      if (turn === 0) tell();
      else setTimeout(tell, turn * apart).unref();
      turn++;
    }
  }

  /** Tells itself something, having looked whether what it told itself last has come. */
  private beat(): void {
    const { client } = this;
    // A database that is slow to take it, or away, says nothing about this line.
    if (client === undefined || (this.beatState === "telling" && ++this.waited < PATIENCE)) return;
    if (this.beatState === "told") {
      this.lose(
        client,
        "nothing is heard on it; behind a pooler of connections, set AMIGO_DATABASE_DIRECT_URL to the database itself",
      );
      return;
    }
    this.beatState = "telling";
    this.waited = 0;
    this.db.execute(sql`select pg_notify(${this.pulse}, '')`).then(
      () => {
        if (this.beatState === "telling") this.beatState = "told";
      },
      () => {
        this.beatState = "none";
      },
    );
  }

  private lose(client: pg.Client, reason: string): void {
    if (this.closed || (this.client !== client && this.client !== undefined)) return;
    if (this.client === client) {
      this.log.warn({ failure: reason }, "the event line to the database broke");
      client
        .removeAllListeners("end")
        .end()
        .catch(() => undefined);
    }
    this.client = undefined;
    this.hearingSince = Infinity;
    this.again();
  }

  private again(): void {
    if (this.closed || this.retry !== undefined) return;
    this.retry = setTimeout(() => {
      this.retry = undefined;
      this.listen().then(
        () => {
          // Nobody knows what was told meanwhile.
          for (const topic of TOPICS) this.tell(topic);
        },
        () => this.again(),
      );
    }, this.pause);
    this.pause = Math.min(this.pause * 2, LONGEST_PAUSE);
  }
}

/** Tells every process that something changed, once the transaction is through. */
export async function notify(db: Queries, ...topics: Topic[]): Promise<void> {
  for (const topic of topics) await db.execute(sql`select pg_notify(${CHANNEL}, ${topic})`);
}
