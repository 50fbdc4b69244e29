import type { MiddlewareHandler } from "hono";

/** How long a stop waits for requests that are under way, in milliseconds. */
const PATIENCE = 10_000;
/** Answers that go on for as long as somebody listens; nobody waits for their end. */
const ENDLESS = "/api/events";

/** Counts the requests under way, so that a stop lets them finish and takes no new ones. */
export class Traffic {
  private busy = 0;
  private stopping = false;
  private idle: () => void = () => undefined;

  /** Whether this process is about to end. */
  get isStopping(): boolean {
    return this.stopping;
  }

  readonly count: MiddlewareHandler = async (http, next) => {
    if (this.stopping)
      return http.text("Amigo is being stopped. Try again in a moment.", 503, {
        "Retry-After": "5",
        Connection: "close",
      });
    if (http.req.path === ENDLESS) return next();
    this.busy++;
    try {
      return await next();
    } finally {
      this.busy--;
      if (this.busy === 0) this.idle();
    }
  };

  /** Takes no more requests, and waits for those under way, for ten seconds at most. */
  async stop(): Promise<void> {
    this.stopping = true;
    if (this.busy === 0) return;
    await new Promise<void>((resolve) => {
      const late = setTimeout(resolve, PATIENCE);
      this.idle = () => {
        clearTimeout(late);
        resolve();
      };
    });
  }
}
