import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { notify } from "../events/events";
import { markRelayAway, markRelayBack, markRelayChecked } from "./relayQueries";
import { RelayConnection, type RelayUnreachable } from "./relayConnection";
import { relayWay } from "./relayWay";

/** When it is tried again whether the relay is back, in milliseconds; the last goes on. */
const TRIES = [2_000, 5_000, 10_000, 15_000];
/** For how long a relay that took a mail counts as there, in milliseconds. */
const FRESH = 20_000;
/** How often it is asked while nothing goes out, in milliseconds; and for how long it may keep us waiting. */
const IDLE_CHECK = 40_000;
const PATIENCE = 15_000;

/** How a mail server says that it has no time for another connection: RFC 5321, section 3.8. */
const BUSY = 421;

/** How often the same trouble is written in the log, in milliseconds. */
const SAY_AGAIN = 60_000;

/** How soon the gate asks, where it is other than usual. */
export interface GateTimes {
  tries: readonly number[];
  fresh: number;
  idleCheck: number;
}

/**
 * Knows whether the relay is there. Once it can't be reached nothing is sent, and it alone is tried again until it answers;
 * then everything that waits goes out at once. Everybody can see since when it is away and why (`relay_state`).
 */
export class RelayGate {
  private away = false;
  private worked = -Infinity;
  private told = -Infinity;
  private said = "";
  private saidAt = -Infinity;
  private tries = 0;
  private timer: NodeJS.Timeout | undefined;
  private closed = false;
  private readonly name: string;

  /**
   * @param back called when the relay answers again
   */
  constructor(
    private readonly context: Pick<Context, "db" | "log" | "settings">,
    private readonly back: () => void,
    private readonly times: GateTimes = { tries: TRIES, fresh: FRESH, idleCheck: IDLE_CHECK },
  ) {
    this.name = relayName(context.settings.relay);
    this.lookLater(times.idleCheck / 2);
  }

  get isAway(): boolean {
    return this.away;
  }

  /** The relay took or refused a mail: it is there. */
  answered(): void {
    this.worked = Date.now();
    if (Date.now() - this.told < this.times.fresh) return;
    this.told = Date.now();
    void markRelayChecked(this.context.db, this.name).catch(() => undefined);
  }

  /**
   * The relay could not be reached. Where it answers that it is busy (421) and has just taken something over another connection,
   * it only wants fewer connections at once.
   *
   * @returns whether it counts as away from now on
   */
  failed({ message, responseCode }: RelayUnreachable): boolean {
    if (responseCode === BUSY && Date.now() - this.worked < this.times.fresh) return false;
    void this.goAway(message);
    return true;
  }

  /** Writes in the log what the relay has against us; the same only once in a while. */
  say(words: string): void {
    if (words === this.said && Date.now() - this.saidAt < SAY_AGAIN) return;
    this.said = words;
    this.saidAt = Date.now();
    this.context.log.warn({ cause: words }, "the relay takes no mail at the moment");
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
  }

  private async goAway(words: string): Promise<void> {
    if (!this.away) {
      this.away = true;
      this.tries = 0;
      this.lookLater(this.pause());
    }
    this.say(words);
    await markRelayAway(this.context.db, this.name, words)
      .then(() => notify(this.context.db, "posts"))
      .catch(() => undefined);
  }

  private async comeBack(): Promise<void> {
    const wasAway = this.away;
    this.away = false;
    this.answered();
    if (await markRelayBack(this.context.db, this.name).catch(() => false))
      await notify(this.context.db, "posts").catch(() => undefined);
    if (!wasAway) return;
    this.context.log.info("the relay takes mail again");
    this.back();
  }

  private pause(): number {
    const { tries } = this.times;
    return tries[Math.min(this.tries++, tries.length - 1)] ?? 1000;
  }

  private lookLater(after: number): void {
    clearTimeout(this.timer);
    if (this.closed) return;
    this.timer = setTimeout(() => void this.look(), after);
    this.timer.unref();
  }

  /** Asks the relay, where nothing has told in the meantime whether it is there. */
  private async look(): Promise<void> {
    const { idleCheck } = this.times;
    if (!this.away && Date.now() - this.worked < idleCheck) return this.lookLater(idleCheck / 2);
    try {
      await new RelayConnection(relayWay(this.context.settings)).check(PATIENCE);
      await this.comeBack();
    } catch (failure) {
      if (!this.closed)
        await this.goAway(failure instanceof Error ? failure.message : describeFailure(failure));
    }
    this.lookLater(this.away ? this.pause() : idleCheck);
  }
}

/** Returns what the relay is called where people read it: its host and port, without a password. */
export function relayName(url: string): string {
  const { hostname, port, protocol } = new URL(url);
  return `${hostname}:${port || (protocol === "smtps:" ? "465" : "587")}`;
}
