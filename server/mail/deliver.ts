import type { Context } from "../context";
import { notify } from "../events/events";
import { RelayConnection, RelayUnreachable } from "../relay/relayConnection";
import { RelayGate } from "../relay/relayGate";
import { relayWay } from "../relay/relayWay";
import { CopyMaker, type MadeCopy } from "./copyMaker";
import { claim, finish, type Claimed, type Outcome } from "./queueQueries";
import { oneLine, outcomeOfRefusal, type RelayFailure } from "./outcomeOfRefusal";
import { describeFailure } from "../describeFailure";
import { t } from "../texts/t";
import { prolong, release } from "./queries";

/** How often the queue is looked at when nothing says that it changed, in milliseconds. */
const LOOK_EVERY = 2_000;
/** How many copies are claimed ahead for each connection, so that none waits for the database. */
const AHEAD = 20;
/** How many copies for each connection may be sent and not yet written down, so that sending goes on while the database writes. */
const UNWRITTEN = 4;
/** For which share of their time claims are sure to hold. */
const SURE = 0.8;
/** How long a stop waits for the relay's answers, in milliseconds. */
const STOP_WAITS = 10_000;
/** Pages with posts are told of progress at most this often, in milliseconds. */
const TELL_EVERY = 300;

/** Delivers the queue through the relay. Any number of workers share it; no copy is claimed by two. */
export class Deliverer {
  private running = true;
  private refilling: Promise<void> | undefined;
  private again = false;
  private readonly waiting: Claimed[] = [];
  private readonly inHand = new Set<number>();
  private readonly senders = new Set<Promise<void>>();
  private readonly connections: readonly RelayConnection[];
  /** The connections that nobody uses at the moment. */
  private readonly relays: RelayConnection[];
  private readonly gate: RelayGate;
  private done: Outcome[] = [];
  /** How many copies the relay answered for that the database doesn't know of yet: a crash now would send these again. */
  private unwritten = 0;
  private finishing: Promise<void> | undefined;
  /** When the claims in hand were last known to hold, by the clock of this machine. */
  private heldAt = 0;
  private told = 0;
  private readonly copies: CopyMaker;
  private readonly timers: NodeJS.Timeout[];
  private readonly stopListening: () => void;

  constructor(private readonly context: Context) {
    const { settings } = context;
    this.copies = new CopyMaker(context);
    this.gate = new RelayGate(context, () => this.look());
    this.connections = Array.from(
      { length: settings.connections },
      () => new RelayConnection(relayWay(settings)),
    );
    this.relays = [...this.connections];
    this.stopListening = context.events.on((topic) => {
      if (topic === "queue") this.look();
    });
    this.timers = [
      setInterval(() => this.look(), LOOK_EVERY),
      setInterval(() => void this.prolong(), Math.max(500, (settings.claimSeconds * 1000) / 3)),
    ];
    this.look();
  }

  /** Looks at the queue now, or once more after the look that is under way. */
  look(): void {
    // While the relay is away nothing is claimed: what waits goes out as soon as it is back.
    if (!this.running || this.gate.isAway) return;
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
    this.gate.close();
    this.stopListening();
    await this.refilling;
    const unbegun = this.waiting.splice(0).map(({ id }) => id);
    await release(this.context.db, unbegun).catch(() => undefined);
    // A relay that hangs holds nobody up: what is under way then is tried again, since nobody knows whether it was taken.
    const hangs = setTimeout(() => {
      for (const connection of this.connections)
        connection.abort(new Error("Amigo was stopped before the relay answered"));
    }, STOP_WAITS);
    await Promise.all(this.senders);
    clearTimeout(hangs);
    await this.flush();
    // The one before may have been telling pages already, and looked no more.
    await this.flush();
    for (const relay of this.connections) relay.close();
  }

  private async refill(): Promise<void> {
    const { settings, db } = this.context;
    const enough = settings.connections * AHEAD;
    const { claimSeconds, perMinute, domainPerMinute } = settings;
    const limits = { claimSeconds, perMinute, domainPerMinute };
    this.startSenders();
    if (this.inHand.size === 0) this.heldAt = Date.now();
    // What is in hand still is first written down.
    else if (this.isTooLate()) return;
    // What somebody waits for at this moment is taken however much is in hand already, and goes before it.
    this.take(await claim(db, { ...limits, most: enough, isUrgent: true }));
    while (this.running && !this.gate.isAway && this.waiting.length < enough) {
      const claimed = await claim(db, { ...limits, most: enough, isUrgent: false });
      if (claimed.length === 0) return;
      this.take(claimed);
    }
  }

  /** Keeps what is in hand claimed for longer. */
  private async prolong(): Promise<void> {
    const now = Date.now();
    // Claims that have run out are somebody else's by now.
    if (this.isTooLate()) return;
    try {
      await prolong(this.context.db, [...this.inHand], this.context.settings.claimSeconds);
      this.heldAt = now;
    } catch {
      // They run out, and nothing more of them is sent then.
    }
  }

  /** Whether the claims in hand may have run out: the machine was suspended, or the database away for long. Another may have sent them. */
  private isTooLate(): boolean {
    return Date.now() - this.heldAt > this.context.settings.claimSeconds * 1000 * SURE;
  }

  /** Lets go of all that isn't sent yet: it is claimed again when its time comes. */
  private letGo(copies: readonly Claimed[]): void {
    for (const { id } of [...copies, ...this.waiting.splice(0)]) this.inHand.delete(id);
    this.context.log.warn(
      { copies: copies.length },
      "copies were let go, as they may be somebody else's by now",
    );
  }

  private take(claimed: readonly Claimed[]): void {
    if (claimed.length === 0) return;
    this.copies.fetch(claimed);
    for (const copy of claimed.filter(({ id }) => !this.inHand.has(id))) {
      this.inHand.add(copy.id);
      this.waiting.push(copy);
    }
    this.waiting.sort((one, other) => one.priority - other.priority || one.id - other.id);
    this.startSenders();
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
      if (this.isTooLate()) {
        this.letGo([copy, ...(next === undefined ? [] : [next.copy])]);
        next = undefined;
        continue;
      }
      if (this.waiting.length < (this.context.settings.connections * AHEAD) / 2) this.look();
      try {
        const outcome = await this.deliver(copy, await made, relay);
        this.done.push(outcome);
        this.unwritten++;
      } catch (failure) {
        if (failure instanceof RelayUnreachable) {
          await this.putBack([copy, ...(next === undefined ? [] : [next.copy])], failure.message);
          next = undefined;
          continue;
        }
        // The database or something of ours failed: the claim runs out and the copy is tried again.
        this.context.log.warn(
          { failure: describeFailure(failure), copy: copy.id },
          "a copy could not be worked on",
        );
        this.inHand.delete(copy.id);
      }
      void this.flush();
      // A slow database slows sending, and one that is away stops it: what isn't written down could be sent twice.
      while (this.running && this.unwritten >= this.context.settings.connections * UNWRITTEN)
        await this.flush();
    }
  }

  /** Gives back what was claimed, as the relay is away: it keeps its place and is due as soon as that answers again. */
  private async putBack(copies: readonly Claimed[], words: string): Promise<void> {
    const ids = [...copies, ...this.waiting.splice(0)].map(({ id }) => id);
    await release(this.context.db, ids, oneLine(words)).catch((failure: unknown) =>
      this.context.log.warn(
        { failure: describeFailure(failure) },
        "copies could not be given back; their claims run out",
      ),
    );
    for (const id of ids) this.inHand.delete(id);
  }

  private begin(): { copy: Claimed; made: Promise<MadeCopy | undefined> } | undefined {
    const copy = this.waiting.shift();
    if (copy === undefined) return undefined;
    const made = this.copies.make(copy);
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
        // What can't be written now stays claimed and in hand, and is written with the next: it is not sent a second time meanwhile.
        try {
          await finish(this.context.db, outcomes);
          for (const { id } of outcomes) this.inHand.delete(id);
          this.unwritten -= outcomes.length;
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
    made: MadeCopy | undefined,
    relay: RelayConnection,
  ): Promise<Outcome> {
    if (made === undefined)
      return { id: copy.id, state: "bounced", reply: t("mail.theMessageIsNoLonger") };
    try {
      const answer = await relay.send(
        { from: made.returnPath, to: [copy.address], use8BitMime: made.is8Bit },
        made.raw,
      );
      this.gate.answered();
      return { id: copy.id, state: "sent", reply: oneLine(answer) };
    } catch (failure) {
      if (failure instanceof RelayUnreachable && this.gate.failed(failure)) throw failure;
      return outcomeOfRefusal(this.context, this.gate, copy, failure as RelayFailure);
    }
  }
}
