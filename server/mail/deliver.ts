import { eq, inArray } from "drizzle-orm";
import { isInside } from "@amigo/core/address/isInside";
import { refusalIn } from "@amigo/core/mail/bounces/refusalIn";
import { isForGood, sortOf } from "@amigo/core/mail/bounces/sortOf";
import { fillMerge } from "@amigo/core/mail/merge";
import type { Context } from "../context";
import { notify } from "../events/events";
import { RelayConnection } from "./relayConnection";
import { leaveToken } from "../posting/leaveToken";
import { fillRaw } from "../posting/fillRaw";
import {
  makeCopy,
  openMessage,
  prepare,
  signNote,
  type CopyList,
  type CopyPost,
  type Prepared,
  type StoredMessage,
} from "./prepareCopy";
import { claim, finish, type Claimed, type Outcome } from "./queueQueries";
import { cameBack } from "./trouble";
import { describeFailure } from "../describeFailure";
import { t } from "../texts/t";
import { house } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { message, post } from "../db/schema/posts";
import { prolong, release } from "./queries";

/** Pauses before the next try, in seconds; the last goes on until the days are over. */
const PAUSES = [30, 120, 600, 1800, 3600, 7200, 14400];
const DAYS = 4;
/** How often the queue is looked at when nothing says that it changed, in milliseconds. */
const LOOK_EVERY = 2_000;
/** How many copies are claimed ahead for each connection, so that none waits for the database. */
const AHEAD = 20;
/** Pages with posts are told of progress at most this often, in milliseconds. */
const TELL_EVERY = 300;
/** Messages kept in mind between copies, in octets. */
const REMEMBERED = 64 * 1024 * 1024;

/** A mail that is too large is refused when its size is named, before the recipient: RFC 1870, section 6. */
const TOO_LARGE = 552;

/** What the SMTP library tells of a failure; without a code where the relay could not be asked. */
interface RelayFailure {
  responseCode?: number;
  response?: string;
  /** At which command it came. */
  command?: string;
  message?: string;
}

/** Delivers the queue through the relay. Any number of workers share it; no copy is claimed by two. */
export class Deliverer {
  private running = true;
  private refilling: Promise<void> | undefined;
  private again = false;
  private readonly waiting: Claimed[] = [];
  private readonly inHand = new Set<number>();
  private readonly senders = new Set<Promise<void>>();
  /** The connections that nobody uses at the moment. */
  private readonly relays: RelayConnection[];
  private done: Outcome[] = [];
  private finishing: Promise<void> | undefined;
  private told = 0;
  private readonly messages = new Map<string, Promise<StoredMessage | undefined>>();
  private remembered = 0;
  private readonly prepared = new Map<string, Promise<Prepared>>();
  private readonly timers: NodeJS.Timeout[];
  private readonly stopListening: () => void;

  constructor(private readonly context: Context) {
    const { settings } = context;
    this.relays = Array.from(
      { length: settings.connections },
      () => new RelayConnection(settings.relay),
    );
    this.stopListening = context.events.on((topic) => {
      if (topic === "queue") this.look();
    });
    this.timers = [
      setInterval(() => this.look(), LOOK_EVERY),
      setInterval(
        () =>
          void prolong(context.db, [...this.inHand], settings.claimSeconds).catch(() => undefined),
        Math.max(500, (settings.claimSeconds * 1000) / 3),
      ),
    ];
    this.look();
  }

  /** Looks at the queue now, or once more after the look that is under way. */
  look(): void {
    if (!this.running) return;
    if (this.refilling !== undefined) {
      this.again = true;
      return;
    }
    this.refilling = this.refill()
      .catch((failure: unknown) =>
        this.context.log.warn(
          { failure: describeFailure(failure) },
          "the queue could not be looked at",
        ),
      )
      .finally(() => {
        this.refilling = undefined;
        if (this.again) {
          this.again = false;
          this.look();
        }
      });
  }

  /** Stops claiming, finishes what is under way, gives the rest back, closes the connections. */
  async close(): Promise<void> {
    this.running = false;
    for (const timer of this.timers) clearInterval(timer);
    this.stopListening();
    await this.refilling;
    const unbegun = this.waiting.splice(0).map(({ id }) => id);
    await release(this.context.db, unbegun).catch(() => undefined);
    await Promise.all(this.senders);
    await this.flush();
    // The one before may have been telling pages already, and looked no more.
    await this.flush();
    for (const relay of this.relays) relay.close();
  }

  private async refill(): Promise<void> {
    const { settings, db } = this.context;
    const enough = settings.connections * AHEAD;
    this.startSenders();
    while (this.running && this.waiting.length < enough) {
      const claimed = await claim(db, {
        most: enough,
        claimSeconds: settings.claimSeconds,
        perMinute: settings.perMinute,
        domainPerMinute: settings.domainPerMinute,
      });
      if (claimed.length === 0) return;
      for (const copy of claimed
        .filter(({ id }) => !this.inHand.has(id))
        .sort((one, other) => one.id - other.id)) {
        this.inHand.add(copy.id);
        this.waiting.push(copy);
      }
      this.startSenders();
    }
  }

  /** Keeps as many senders at work as there are connections; each takes the next copy that waits. */
  private startSenders(): void {
    while (this.senders.size < this.context.settings.connections && this.waiting.length > 0) {
      const relay = this.relays.pop();
      if (relay === undefined) return;
      const sender: Promise<void> = this.work(relay).finally(() => {
        this.senders.delete(sender);
        this.relays.push(relay);
        // What came in while it was ending is nobody else's to take.
        if (this.running) this.startSenders();
      });
      this.senders.add(sender);
    }
  }

  private async work(relay: RelayConnection): Promise<void> {
    // The next copy is made and signed while this one is on the wire.
    let next = this.begin();
    while (next !== undefined) {
      const { copy, made } = next;
      next = this.begin();
      if (this.waiting.length < (this.context.settings.connections * AHEAD) / 2) this.look();
      try {
        const outcome = await this.deliver(copy, await made, relay);
        this.done.push(outcome);
      } catch (failure) {
        // The database or something of ours failed: the claim runs out and the copy is tried again.
        this.context.log.warn(
          { failure: describeFailure(failure), copy: copy.id },
          "a copy could not be worked on",
        );
        this.inHand.delete(copy.id);
      }
      void this.flush();
    }
  }

  private begin(): { copy: Claimed; made: ReturnType<Deliverer["make"]> } | undefined {
    const copy = this.waiting.shift();
    if (copy === undefined) return undefined;
    const made = this.make(copy);
    // A failure is told to whoever sends it; until then nobody listens.
    made.catch(() => undefined);
    return { copy, made };
  }

  /** Writes down what is done. While one writing is under way, what comes meanwhile waits for the next, together. */
  private async flush(): Promise<void> {
    if (this.finishing !== undefined) return this.finishing;
    this.finishing = (async () => {
      while (this.done.length > 0) {
        const outcomes = this.done;
        this.done = [];
        // What can not be written now stays claimed and in hand, and is written with the next: it is not sent a second time meanwhile.
        try {
          await finish(this.context.db, outcomes);
          for (const { id } of outcomes) this.inHand.delete(id);
        } catch (failure) {
          this.done = [...outcomes, ...this.done];
          this.context.log.warn(
            { failure: describeFailure(failure) },
            "what became of copies could not be written down yet",
          );
          if (!this.running) return;
          await new Promise((resolve) => {
            setTimeout(resolve, 1000);
          });
        }
      }
      if (Date.now() - this.told > TELL_EVERY || this.inHand.size === 0) {
        this.told = Date.now();
        await notify(this.context.db, "posts").catch(() => undefined);
      }
    })().finally(() => {
      this.finishing = undefined;
      // What was done while pages were told has nobody else to write it down.
      if (this.running && this.done.length > 0) void this.flush();
    });
    return this.finishing;
  }

  private async deliver(
    copy: Claimed,
    made: Awaited<ReturnType<Deliverer["make"]>>,
    relay: RelayConnection,
  ): Promise<Outcome> {
    if (made === undefined)
      return { id: copy.id, state: "bounced", reply: t("mail.theMessageIsNoLonger") };
    try {
      return {
        id: copy.id,
        state: "sent",
        reply: oneLine(await relay.send({ from: made.returnPath, to: [copy.address] }, made.raw)),
      };
    } catch (failure) {
      return this.refused(copy, failure as RelayFailure);
    }
  }

  private async refused(
    copy: Claimed,
    { responseCode, response, command, message: words }: RelayFailure,
  ): Promise<Outcome> {
    const reply = oneLine(response ?? words ?? "");
    const tooOld = Date.now() - copy.createdAt.getTime() > DAYS * 86_400_000;
    // What the relay says before the recipient is named (of our sign-in, of who sends) is about us: it is tried again, and held against no address.
    const isOfCopy = command === "RCPT TO" || command === "DATA" || responseCode === TOO_LARGE;
    const gaveUp = (isOfCopy && responseCode !== undefined && responseCode >= 500) || tooOld;
    if (isOfCopy && responseCode !== undefined && (gaveUp || copy.attempts === 1)) {
      const { status } = refusalIn(reply);
      const sort = sortOf({ code: responseCode, status, words: reply });
      if (gaveUp || !isForGood(sort))
        await this.context.db.transaction((tx) =>
          cameBack(tx, {
            deliveryId: copy.id,
            address: copy.address,
            sort,
            form: t("mail.refusedAtOnce"),
            words: reply,
          }),
        );
    }
    return gaveUp
      ? { id: copy.id, state: "bounced", reply }
      : {
          id: copy.id,
          state: "deferred",
          reply,
          pause: PAUSES[Math.min(copy.attempts - 1, PAUSES.length - 1)] ?? 3600,
        };
  }

  /** The copy as it goes to the relay, and its return path. */
  private async make(
    copy: Claimed,
  ): Promise<
    { raw: Buffer | Awaited<ReturnType<typeof makeCopy>>; returnPath: string } | undefined
  > {
    const { dkim, settings } = this.context;
    const stored = await this.messageOf(copy.messageId);
    if (stored === undefined) return undefined;
    const [of, by, { listDomain: domain, insideDomain }] = await Promise.all([
      this.listOf(copy.listId),
      this.postOf(copy.postId),
      this.domains(),
    ]);
    const storedMessage =
      copy.fields === null || stored.merge === null
        ? stored
        : openMessage({
            id: stored.id,
            arc: null,
            raw: await fillRaw(stored.raw, {
              subject: fillMerge(stored.merge.subject, copy.fields, "text"),
              text: fillMerge(stored.merge.text, copy.fields, "text"),
              html: fillMerge(stored.merge.html, copy.fields, "html"),
            }),
          });
    if (of === undefined || by === undefined) {
      const isOurs = by === undefined;
      return {
        raw: isOurs
          ? await signNote(storedMessage.raw, domain, dkim, new Date())
          : storedMessage.raw,
        returnPath: by?.fromAddress ?? "",
      };
    }
    const prepared =
      storedMessage === stored
        ? await this.preparedFor(stored, of, by, domain)
        : await prepare(storedMessage, { ...of, domain }, by, dkim, settings.url, new Date());
    return {
      raw: await makeCopy(prepared, dkim, {
        token: leaveToken(dkim.pem, copy.id),
        inside: isInside(copy.address, insideDomain),
      }),
      returnPath: `${of.name}+b.${copy.token}@${domain}`,
    };
  }

  private preparedFor(
    stored: StoredMessage,
    of: Omit<CopyList, "domain">,
    by: CopyPost,
    domain: string,
  ): Promise<Prepared> {
    // Most copies are of what the one before was of, told by the very same answers of the database.
    const { last } = this;
    if (last?.stored === stored && last.of === of && last.by === by && last.domain === domain)
      return last.made;
    // Whatever the header or footer is made of is part of it: a rule that changes meanwhile holds for the copies that are left.
    const key = JSON.stringify([stored.id, of, by, domain]);
    const made =
      this.prepared.get(key) ??
      prepare(
        stored,
        { ...of, domain },
        by,
        this.context.dkim,
        this.context.settings.url,
        new Date(),
      );
    this.prepared.set(key, made);
    this.last = { stored, of, by, domain, made };
    made.catch(() => {
      this.prepared.delete(key);
      this.last = undefined;
    });
    return made;
  }

  private last:
    | {
        stored: StoredMessage;
        of: Omit<CopyList, "domain">;
        by: CopyPost;
        domain: string;
        made: Promise<Prepared>;
      }
    | undefined;

  /** A message with its parts, kept in mind between copies as long as there is room. */
  private messageOf(
    id: string,
  ): Promise<(StoredMessage & { merge: (typeof message.$inferSelect)["merge"] }) | undefined> {
    const known = this.messages.get(id) as ReturnType<Deliverer["messageOf"]> | undefined;
    if (known !== undefined) return known;
    const fetched = this.context.db
      .select({ id: message.id, raw: message.raw, arc: message.arc, merge: message.merge })
      .from(message)
      .where(eq(message.id, id))
      .then(([row]) => {
        if (row === undefined || row.raw.length === 0) return undefined;
        this.remembered += row.raw.length;
        return {
          ...openMessage({ id: row.id, raw: row.raw, arc: row.arc ?? null }),
          merge: row.merge ?? null,
        };
      });
    if (this.remembered > REMEMBERED || this.messages.size > 500) {
      this.messages.clear();
      this.prepared.clear();
      this.remembered = 0;
    }
    this.messages.set(id, fetched);
    fetched.catch(() => this.messages.delete(id));
    return fetched;
  }

  private readonly short = new Map<string, { at: number; value: Promise<unknown> }>();

  /** Asks once in a few seconds for what many copies need: lists and posts are as they are now, not as they were when a round of copies began. */
  private soon<Value>(key: string, ask: () => Promise<Value>): Promise<Value> {
    const known = this.short.get(key);
    if (known !== undefined && Date.now() - known.at < 2000) return known.value as Promise<Value>;
    if (this.short.size > 1000) this.short.clear();
    const value = ask();
    this.short.set(key, { at: Date.now(), value });
    value.catch(() => this.short.delete(key));
    return value;
  }

  private listOf(id: string | null): Promise<Omit<CopyList, "domain"> | undefined> {
    return id === null
      ? Promise.resolve(undefined)
      : this.soon(
          `list ${id}`,
          async () =>
            (
              await this.context.db
                .select({ id: list.id, name: list.name, title: list.title, rules: list.rules })
                .from(list)
                .where(eq(list.id, id))
            )[0],
        );
  }

  private postOf(id: string | null): Promise<CopyPost | undefined> {
    return id === null
      ? Promise.resolve(undefined)
      : this.soon(
          `post ${id}`,
          async () =>
            (
              await this.context.db
                .select({
                  id: post.id,
                  fromName: post.fromName,
                  fromAddress: post.fromAddress,
                  reaches: post.reaches,
                  asList: post.asList,
                })
                .from(post)
                .where(inArray(post.id, [id]))
            )[0],
        );
  }

  private domains(): Promise<{ listDomain: string; insideDomain: string }> {
    return this.soon(
      "domains",
      async () =>
        (
          await this.context.db
            .select({ listDomain: house.listDomain, insideDomain: house.insideDomain })
            .from(house)
        )[0] ?? { listDomain: "localhost", insideDomain: "localhost" },
    );
  }
}

/** What the relay said, in one line. */
function oneLine(text: string): string {
  return text.replace(/\s+/g, " ").trim().slice(0, 500);
}
