import type { Hono } from "hono";
import type { Context } from "../context";

/** For how long other mail servers keep the policy, in seconds. */
const KEPT = 7 * 86_400;

/**
 * Serves the policy by which other mail servers send to the lists encrypted only (RFC 8461, section 3.2), where the mail port
 * has a certificate. It asks them to test it and report, so that no mail is lost by a mistake.
 */
export function mailPolicyRoutes(app: Hono, { settings }: Context): void {
  app.get("/.well-known/mta-sts.txt", (http) => {
    if (settings.tls === undefined) return http.text("", 404);
    const lines = [
      "version: STSv1",
      "mode: testing",
      `mx: ${new URL(settings.url).hostname}`,
      `max_age: ${KEPT}`,
    ];
    return http.text(`${lines.join("\r\n")}\r\n`);
  });
}
