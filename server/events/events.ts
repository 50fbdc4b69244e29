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
] as const;

export type Topic = (typeof TOPICS)[number];

/** The channel of LISTEN and NOTIFY by which all processes hear. */
export const CHANNEL = "amigo";

/** Hears what changed, from this process and all others, over the database's LISTEN and NOTIFY. */
export class Events {
  private client: pg.Client | undefined;
  private closed = false;
  private retry: NodeJS.Timeout | undefined;
  private readonly listeners = new Set<(topic: Topic) => void>();
  /** When each topic was heard last, and since when all of them are heard. */
  private readonly heard = new Map<Topic, number>();
  private hearingSince = Infinity;

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    client.on("error", (failure) => {
      this.log.warn({ failure: describeFailure(failure) }, "the event line to the database broke");
      this.again();
    });
    client.on("end", () => this.again());
    client.on("notification", ({ payload }) => {
      const topic = TOPICS.find((candidate) => candidate === payload) ?? "board";
      this.heard.set(topic, Date.now());
      for (const listener of this.listeners) listener(topic);
    });
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    this.client = client;
    this.hearingSince = Date.now();
  }

  /** Calls back at every change until the answer is called. */
  on(listener: (topic: Topic) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
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
    this.listeners.clear();
    await this.client?.end().catch(() => undefined);
  }

  private again(): void {
    if (this.closed || this.retry !== undefined) return;
    this.client = undefined;
    this.hearingSince = Infinity;
    this.retry = setTimeout(() => {
      this.retry = undefined;
      this.start().then(
        () => {
          for (const topic of ["board", "queue"] as const)
            for (const listener of this.listeners) listener(topic);
        },
        () => this.again(),
      );
    }, 1000);
  }
}

/** Tells every process that something changed, once the transaction is through. */
export async function notify(db: Queries, ...topics: Topic[]): Promise<void> {
  for (const topic of topics) await db.execute(sql`select pg_notify(${CHANNEL}, ${topic})`);
}
