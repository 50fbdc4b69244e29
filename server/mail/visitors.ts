import { networkOf } from "../http/networkAddress";
import { SmtpAnswer } from "./smtpAnswer";

/** How many connections and mails a minute one network may have, this very machine and our own mail servers aside. */
const MOST_CONNECTIONS = 20;
const MAILS_A_MINUTE = 300;

/** From how many connections on the one that does least makes room for the next. */
const MOST_OPEN = 200;

/** For how long a connection may stay open without handing in a mail, in milliseconds. */
const LONGEST_WITHOUT_MAIL = 10 * 60_000;
/** While a mail comes in, at how many octets a second it may go on beyond that. */
const SLOWEST = 2_000;

/** What is known of a connection while it is open. */
interface Visit {
  network: string;
  isOurs: boolean;
  /** When it came or last handed in a mail, in milliseconds. */
  since: number;
  /** How many octets of the mail that is coming in have arrived; undefined where none is. */
  octets: number | undefined;
  handedIn: number;
}

/** Who asks over SMTP: the id of the session, and the network address it comes from. */
export interface Visitor {
  id: string;
  remoteAddress: string;
}

/** Counts who is connected, how much they send and how slowly, so that nobody takes all the room. */
export class Visitors {
  private readonly open = new Map<string, Visit>();
  private minute = 0;
  private readonly mails = new Map<string, number>();

  /**
   * @param fronts addresses of our own mail servers and proxies, for which there are no limits
   * @param now    the time in milliseconds
   */
  constructor(
    private readonly fronts: ReadonlySet<string>,
    private readonly now: () => number = Date.now,
    private readonly mostOpen = MOST_OPEN,
  ) {}

  /** A connection comes. Returns what it is refused with; null where it is welcome. */
  come({ id, remoteAddress }: Visitor): SmtpAnswer | null {
    const network = networkOf(remoteAddress);
    const isOurs = this.isOurs(remoteAddress);
    const from = [...this.open.values()].filter((visit) => visit.network === network).length;
    this.open.set(id, { network, isOurs, since: this.now(), octets: undefined, handedIn: 0 });
    return from >= MOST_CONNECTIONS && !isOurs
      ? new SmtpAnswer(421, "4.7.0 too many connections from there; try again in a minute")
      : null;
  }

  go({ id }: Visitor): void {
    this.open.delete(id);
  }

  /** A mail begins. Returns what it is refused with; null where it may go on. */
  mail({ remoteAddress }: Visitor): SmtpAnswer | null {
    const minute = Math.floor(this.now() / 60_000);
    if (minute !== this.minute) {
      this.minute = minute;
      this.mails.clear();
    }
    const network = networkOf(remoteAddress);
    const count = (this.mails.get(network) ?? 0) + 1;
    this.mails.set(network, count);
    return count > MAILS_A_MINUTE && !this.isOurs(remoteAddress)
      ? new SmtpAnswer(450, "4.7.0 too many mails in this minute; try again in the next")
      : null;
  }

  /** More of a mail's text has come in. */
  arrives({ id }: Visitor, octets: number): void {
    const visit = this.open.get(id);
    if (visit !== undefined) visit.octets = (visit.octets ?? 0) + octets;
  }

  /** A mail has been handed in, whatever came of it. */
  handedIn({ id }: Visitor): void {
    const visit = this.open.get(id);
    if (visit === undefined) return;
    visit.since = this.now();
    visit.octets = undefined;
    visit.handedIn++;
  }

  /** Returns the sessions whose time is over: they have handed in nothing for long, and no mail comes in at a pace. */
  overdue(): string[] {
    return [...this.open].flatMap(([id, { since, octets }]) => {
      const open = this.now() - since;
      const isMoving = octets !== undefined && octets / (open / 1000) >= SLOWEST;
      return open > LONGEST_WITHOUT_MAIL && !isMoving ? [id] : [];
    });
  }

  /**
   * Returns the session that makes room where too many are open: of the network that has most of them, the one that has handed
   * in least for longest. A whole network of idlers so gives way to a single sender.
   */
  weakest(): string | undefined {
    if (this.open.size <= this.mostOpen) return undefined;
    const perNetwork = new Map<string, number>();
    for (const { network, isOurs } of this.open.values())
      if (!isOurs) perNetwork.set(network, (perNetwork.get(network) ?? 0) + 1);
    const most = Math.max(0, ...perNetwork.values());
    const [first] = [...this.open]
      .filter(([, { network, isOurs }]) => !isOurs && perNetwork.get(network) === most)
      .sort(([, one], [, other]) => one.handedIn - other.handedIn || one.since - other.since);
    return first?.[0];
  }

  private isOurs(address: string): boolean {
    return isLoopback(address) || this.fronts.has(address.replace(/^::ffff:/, ""));
  }
}

export function isLoopback(address: string): boolean {
  return address === "::1" || /^(::ffff:)?127\./.test(address);
}
