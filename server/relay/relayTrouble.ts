import type { Logger } from "pino";

/** How often the same trouble is written in the log, in milliseconds. */
const SAY_AGAIN = 60_000;

/** Writes in the log that the relay takes nothing at the moment, and why; the same only once in a while. */
export class RelayTrouble {
  private words = "";
  private at = -Infinity;

  constructor(private readonly log: Logger) {}

  tell(words: string): void {
    if (words === this.words && Date.now() - this.at < SAY_AGAIN) return;
    this.words = words;
    this.at = Date.now();
    this.log.warn({ cause: words }, "the relay takes no mail at the moment");
  }
}
