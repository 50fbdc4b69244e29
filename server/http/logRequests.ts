import { randomBytes } from "node:crypto";
import type { MiddlewareHandler } from "hono";
import { routePath } from "hono/route";
import type { Logger } from "pino";

/** An id that a proxy gives, if it is one. */
const ID = /^[\w.:-]{1,64}$/;

/**
 * Writes one line for each request: its id, its route without what stands in its place, its status and how long it took. The id
 * is the proxy's (`X-Request-Id`), else one of our own, and goes back with the answer.
 */
export function logRequests(log: Logger): MiddlewareHandler {
  return async (http, next) => {
    const given = http.req.header("X-Request-Id") ?? "";
    const request = ID.test(given) ? given : randomBytes(9).toString("base64url");
    const began = performance.now();
    await next();
    // The last that was asked is the one that answered: its pattern, never the path itself, which may hold a secret.
    http.header("X-Request-Id", request);
    log.info(
      {
        ...{ request, method: http.req.method, route: routePath(http) },
        ...{ status: http.res.status, ms: Math.round(performance.now() - began) },
      },
      "a request was answered",
    );
  };
}
