import type { Readable } from "node:stream";
import SMTPConnection from "nodemailer/lib/smtp-connection";
import { parseConnectionUrl } from "nodemailer/lib/shared";
import type { RelayWay } from "./relayWay";

/** After how many mails a connection is made again, as relays like it, and after how many milliseconds without one it is closed. */
const MAILS = 1000;
const IDLE = 20_000;

/** How long the relay is waited for, in milliseconds: its greeting, and its answer after all of a mail (RFC 5321, section 4.5.3.2). */
const GREETING = 5 * 60_000;
const ANSWER = 10 * 60_000;
const CONNECTING = 30_000;

/** Why a mail could not even begin: no connection to the relay could be made, or it let us in for no mail. */
export class RelayUnreachable extends Error {
  readonly responseCode: number | undefined;

  constructor(cause: unknown) {
    super(cause instanceof Error ? cause.message : String(cause), { cause });
    this.responseCode = (cause as { responseCode?: number }).responseCode;
  }
}

/** One connection to the relay, kept from mail to mail. It is opened when it is first needed, and again once it broke. */
export class RelayConnection {
  private connection: SMTPConnection | undefined;
  private mails = 0;
  private idle: NodeJS.Timeout | undefined;
  /** Told when the connection ends under a mail: the library does not always answer that to the mail itself. */
  private broke: (failure: Error) => void = () => undefined;

  /** The connection that is being opened. */
  private opening: SMTPConnection | undefined;

  /** Why nothing goes out on it any more. */
  private stopped: Error | undefined;

  constructor(private readonly way: RelayWay) {}

  /**
   * Speaks to the relay up to where a mail would begin: TLS and sign-in included.
   *
   * @param patience for how many milliseconds it is waited for
   * @throws Error that says what was wrong
   */
  async check(patience: number): Promise<void> {
    const timer = setTimeout(
      () => this.abort(new Error(`no answer within ${patience / 1000} seconds`)),
      patience,
    );
    try {
      await this.open();
    } finally {
      clearTimeout(timer);
      this.close();
    }
  }

  /**
   * Hands one mail to the relay.
   *
   * @returns what the relay answered
   * @throws Error with `responseCode` and `response` where the relay refused, without where it could not be asked
   */
  async send(
    envelope: { from: string; to: string[]; use8BitMime?: boolean },
    raw: Buffer | Readable,
  ): Promise<string> {
    clearTimeout(this.idle);
    if (this.stopped !== undefined) throw this.stopped;
    if (this.mails >= MAILS) this.close();
    const open = this.connection ?? (await this.reach());
    try {
      const answer = await new Promise<string>((resolve, reject) => {
        this.broke = reject;
        // Where it ended in the very moment in which it was opened, the library would wait for ever.
        if (this.connection !== open) {
          reject(new Error("the relay closed the connection"));
          return;
        }
        open.send(envelope, raw, (failure, info) => {
          if (failure === null || failure === undefined) resolve(info.response);
          else reject(failure);
        });
      });
      this.mails++;
      this.idle = setTimeout(() => this.close(), IDLE);
      this.idle.unref();
      return answer;
    } catch (failure) {
      // Whatever was said on it, the next mail begins on a connection whose state is known.
      this.close();
      throw failure;
    }
  }

  close(): void {
    clearTimeout(this.idle);
    this.connection?.quit();
    this.connection = undefined;
    this.mails = 0;
  }

  /** Ends the connection at once, whatever is under way on it; nothing goes out on it after that. */
  abort(reason: Error): void {
    clearTimeout(this.idle);
    this.stopped = reason;
    const { connection, opening } = this;
    this.connection = undefined;
    this.mails = 0;
    this.broke(reason);
    if (opening !== undefined) opening.emit("error", reason);
    connection?.close();
  }

  /** Opens the connection for a mail; what goes wrong then is none of the mail's doing. */
  private async reach(): Promise<SMTPConnection> {
    try {
      return await this.open();
    } catch (failure) {
      throw failure === this.stopped ? failure : new RelayUnreachable(failure);
    }
  }

  private open(): Promise<SMTPConnection> {
    const { url, verify, requireTls, helo } = this.way;
    const { auth, ...options } = parseConnectionUrl(url);
    const made = new SMTPConnection({
      ...options,
      ...(helo === undefined ? {} : { name: helo }),
      requireTLS: requireTls,
      tls: { ...options.tls, rejectUnauthorized: verify },
      connectionTimeout: CONNECTING,
      greetingTimeout: GREETING,
      socketTimeout: ANSWER,
    });
    this.opening = made;
    return new Promise((resolve, reject) => {
      const failed = (failure: unknown): void => {
        if (this.opening === made) this.opening = undefined;
        // Before it is closed: what closing says of itself would hide the cause.
        reject(failure instanceof Error ? failure : new Error(String(failure)));
        made.close();
      };
      const ready = (): void => {
        this.opening = undefined;
        this.connection = made;
        resolve(made);
      };
      const ended = (failure: Error): void => {
        if (this.connection === made) {
          this.connection = undefined;
          this.broke(failure);
        }
        failed(failure);
      };
      made.on("error", ended);
      made.once("end", () => ended(new Error("the relay closed the connection")));
      made.connect((failure) => {
        if (failure !== undefined && failure !== null) failed(failure);
        else if (auth?.user === undefined) ready();
        else if (!made.allowsAuth) failed(new Error("the relay offers no sign-in"));
        else if (!made.secure && !this.way.loginInClear)
          failed(
            new Error(
              "the relay offers no TLS, and its password is not sent in clear (AMIGO_RELAY_LOGIN_IN_CLEAR)",
            ),
          );
        else
          made.login({ credentials: { user: auth.user, pass: auth.pass ?? "" } }, (refused) => {
            if (refused === null || refused === undefined) ready();
            else failed(refused);
          });
      });
    });
  }
}
