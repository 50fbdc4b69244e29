import type { Readable } from "node:stream";
import SMTPConnection from "nodemailer/lib/smtp-connection";
import { parseConnectionUrl } from "nodemailer/lib/shared";

/** After how many mails a connection is made again, as relays like it, and after how many milliseconds without one it is closed. */
const MAILS = 1000;
const IDLE = 20_000;

/** One connection to the relay, kept from mail to mail. It is opened when it is first needed, and again once it broke. */
export class RelayConnection {
  private connection: SMTPConnection | undefined;
  private mails = 0;
  private idle: NodeJS.Timeout | undefined;
  /** Told when the connection ends under a mail: the library does not always answer that to the mail itself. */
  private broke: (failure: Error) => void = () => undefined;

  constructor(private readonly relay: string) {}

  /**
   * Hands one mail to the relay.
   *
   * @returns what the relay answered
   * @throws Error with `responseCode` and `response` where the relay refused, without where it could not be asked
   */
  async send(envelope: { from: string; to: string[] }, raw: Buffer | Readable): Promise<string> {
    clearTimeout(this.idle);
    if (this.mails >= MAILS) this.close();
    const open = this.connection ?? (await this.open());
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

  private open(): Promise<SMTPConnection> {
    const { auth, ...options } = parseConnectionUrl(this.relay);
    const made = new SMTPConnection({
      ...options,
      connectionTimeout: 10_000,
      greetingTimeout: 10_000,
      socketTimeout: 60_000,
    });
    return new Promise((resolve, reject) => {
      const failed = (failure: unknown): void => {
        made.close();
        reject(failure instanceof Error ? failure : new Error(String(failure)));
      };
      const ready = (): void => {
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
        else if (auth?.user === undefined || !made.allowsAuth) ready();
        else
          made.login({ credentials: { user: auth.user, pass: auth.pass ?? "" } }, (refused) => {
            if (refused === null || refused === undefined) ready();
            else failed(refused);
          });
      });
    });
  }
}
