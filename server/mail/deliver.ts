import nodemailer, { type Transporter } from "nodemailer";
import { eq, inArray, sql } from "drizzle-orm";
import { copyHeader, type ListIdentity } from "@amigo/core/mail/copyHeader";
import { footerBody } from "@amigo/core/mail/footerBody";
import { splitMessage, type SplitMessage } from "@amigo/core/mail/splitMessage";
import type { Rules } from "@amigo/core/posting/rules/rule";
import type { Context } from "../context";
import { delivery, house, list, message, post } from "../db/schema";
import { notify } from "../events/events";

/** How many copies are claimed at once, and how many connections to the relay are kept. */
const BATCH = 50;
const CONNECTIONS = 5;
/** A copy that a dead worker had claimed is free again after this many minutes. */
const CLAIM_MINUTES = 10;
/** Pauses before the next try, in seconds; the last goes on until the days are over. */
const PAUSES = [30, 120, 600, 1800, 3600, 7200, 14400];
const DAYS = 4;
/** How often the queue is looked at when nothing says that it changed, in milliseconds. */
const LOOK_EVERY = 5_000;

interface Claimed {
  id: number;
  messageId: string;
  postId: string | null;
  listId: string | null;
  address: string;
  token: string;
  attempts: number;
  createdAt: Date;
}

/** Delivers the queue through the relay. Any number of workers share it; no copy is claimed by two. */
export class Deliverer {
  private running = true;
  private working: Promise<void> | undefined;
  private again = false;
  private timer: NodeJS.Timeout | undefined;
  private readonly transport: Transporter;
  private readonly stopListening: () => void;

  constructor(private readonly context: Context) {
    this.transport = nodemailer.createTransport({ url: context.settings.relay, pool: true, maxConnections: CONNECTIONS, maxMessages: 500, connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 60_000 });
    this.stopListening = context.events.on((topic) => { if (topic === "queue") this.look(); });
    this.timer = setInterval(() => this.look(), LOOK_EVERY);
    this.look();
  }

  /** Looks at the queue now, or once more after the look that is under way. */
  look(): void {
    if (!this.running) return;
    if (this.working !== undefined) { this.again = true; return; }
    this.working = this.drain()
      .catch((failure: unknown) => this.context.log.warn({ failure: String(failure) }, "the queue could not be looked at"))
      .finally(() => {
        this.working = undefined;
        if (this.again) { this.again = false; this.look(); }
      });
  }

  /** Stops claiming, finishes what is under way, closes the connections. */
  async close(): Promise<void> {
    this.running = false;
    clearInterval(this.timer);
    this.stopListening();
    await this.working;
    this.transport.close();
  }

  private async drain(): Promise<void> {
    while (this.running) {
      const claimed = await this.claim();
      if (claimed.length === 0) return;
      await this.sendAll(claimed);
      await notify(this.context.db, "posts");
    }
  }

  private async claim(): Promise<Claimed[]> {
    const { db } = this.context;
    const due = db.select({ id: delivery.id }).from(delivery).where(sql`${delivery.state} in ('queued', 'deferred', 'sending') and ${delivery.nextAt} <= now()`).orderBy(delivery.priority, delivery.id).limit(BATCH).for("update", { skipLocked: true });
    return db.update(delivery).set({ state: "sending", attempts: sql`${delivery.attempts} + 1`, nextAt: sql`now() + make_interval(mins => ${CLAIM_MINUTES})` }).where(inArray(delivery.id, due))
      .returning({ id: delivery.id, messageId: delivery.messageId, postId: delivery.postId, listId: delivery.listId, address: delivery.address, token: delivery.token, attempts: delivery.attempts, createdAt: delivery.createdAt });
  }

  private async sendAll(claimed: readonly Claimed[]): Promise<void> {
    const { db } = this.context;
    const ids = [...new Set(claimed.map(({ messageId }) => messageId))];
    const messages = new Map<string, { raw: Buffer; split: SplitMessage }>();
    for (const row of await db.select({ id: message.id, raw: message.raw }).from(message).where(inArray(message.id, ids))) messages.set(row.id, { raw: row.raw, split: splitMessage(row.raw) });
    const listIds = [...new Set(claimed.flatMap(({ listId }) => (listId === null ? [] : [listId])))];
    const lists = new Map(listIds.length === 0 ? [] : (await db.select({ id: list.id, name: list.name, title: list.title, rules: list.rules }).from(list).where(inArray(list.id, listIds))).map((row) => [row.id, row]));
    const postIds = [...new Set(claimed.flatMap(({ postId }) => (postId === null ? [] : [postId])))];
    const posts = new Map(postIds.length === 0 ? [] : (await db.select({ id: post.id, fromName: post.fromName, fromAddress: post.fromAddress, reaches: post.reaches }).from(post).where(inArray(post.id, postIds))).map((row) => [row.id, row]));
    const [own] = await db.select({ listDomain: house.listDomain }).from(house);
    const domain = own?.listDomain ?? "localhost";
    await Promise.all(claimed.map(async (copy) => {
      const stored = messages.get(copy.messageId);
      if (stored === undefined) return;
      const of = lists.get(copy.listId ?? "");
      const by = posts.get(copy.postId ?? "");
      const raw = of === undefined || by === undefined ? stored.raw : this.copyOf(stored, { ...of, domain }, by, copy.token);
      await this.send(copy, of === undefined ? (by?.fromAddress ?? "") : `${of.name}+b.${copy.token}@${domain}`, raw);
    }));
  }

  /** One recipient's copy of a post: its own header, the writer's body, and the list's footer. */
  private copyOf({ raw, split }: { raw: Buffer; split: SplitMessage }, of: Omit<ListIdentity, "rules"> & { rules: Rules }, by: { fromName: string; fromAddress: string; reaches: string }, token: string): Buffer {
    const toLeads = by.reaches === "leads";
    const ended = of.rules.footer === "" || toLeads ? undefined : footerBody(raw, split, of.rules.footer, `amigo-${token}`);
    const header = copyHeader(split, of, { from: { name: by.fromName, address: by.fromAddress }, leaveUrl: `${this.context.settings.url}/leave/${token}`, oneClick: of.rules.leaving === "by oneself", toLeads }, ended?.fields);
    return Buffer.concat([Buffer.from(header, "latin1"), ended?.body ?? raw.subarray(split.bodyAt)]);
  }

  private async send(copy: Claimed, returnPath: string, raw: Buffer): Promise<void> {
    const { db } = this.context;
    let answer: string;
    try {
      const info = await this.transport.sendMail({ envelope: { from: returnPath, to: [copy.address] }, raw }) as { response?: string };
      answer = info.response ?? "";
    } catch (failure) {
      const { responseCode, response, message: words } = failure as { responseCode?: number; response?: string; message?: string };
      const reply = oneLine(response ?? words ?? String(failure));
      const tooOld = Date.now() - copy.createdAt.getTime() > DAYS * 86_400_000;
      if ((responseCode !== undefined && responseCode >= 500) || tooOld) {
        await db.update(delivery).set({ state: "bounced", reply }).where(eq(delivery.id, copy.id));
        return;
      }
      const pause = PAUSES[Math.min(copy.attempts - 1, PAUSES.length - 1)] ?? 3600;
      await db.update(delivery).set({ state: "deferred", reply, nextAt: sql`now() + make_interval(secs => ${pause})` }).where(eq(delivery.id, copy.id));
      return;
    }
    // Apart from the try: when the database is away just now, the copy stays claimed and is not put back for a quick second try.
    await db.update(delivery).set({ state: "sent", sentAt: sql`now()`, reply: oneLine(answer) }).where(eq(delivery.id, copy.id));
  }
}

function oneLine(text: string): string {
  return text.replace(/\s+/g, " ").trim().slice(0, 500);
}
