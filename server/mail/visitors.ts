import { SmtpAnswer } from "./smtpAnswer";

/** How many connections and mails a minute one network address may have, that of this very machine aside. */
const MOST_CONNECTIONS = 20;

const MAILS_A_MINUTE = 300;

/** Counts who is connected and how much they send, so that nobody takes all the room. */
export class Visitors {
  private readonly open = new Map<string, number>();
  private minute = 0;
  private readonly mails = new Map<string, number>();

  come(address: string): SmtpAnswer | null {
    const count = (this.open.get(address) ?? 0) + 1;
    this.open.set(address, count);
    return count > MOST_CONNECTIONS && !isLoopback(address)
      ? new SmtpAnswer(421, "4.7.0 too many connections from there; try again in a minute")
      : null;
  }

  go(address: string): void {
    const count = (this.open.get(address) ?? 1) - 1;
    if (count <= 0) this.open.delete(address);
    else this.open.set(address, count);
  }

  mail(address: string): SmtpAnswer | null {
    const minute = Math.floor(Date.now() / 60_000);
    if (minute !== this.minute) {
      this.minute = minute;
      this.mails.clear();
    }
    const count = (this.mails.get(address) ?? 0) + 1;
    this.mails.set(address, count);
    return count > MAILS_A_MINUTE && !isLoopback(address)
      ? new SmtpAnswer(450, "4.7.0 too many mails in this minute; try again in the next")
      : null;
  }
}

export function isLoopback(address: string): boolean {
  return address === "::1" || /^(::ffff:)?127\./.test(address);
}
