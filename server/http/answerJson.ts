import { createHash } from "node:crypto";
import type { Context as HonoContext } from "hono";

/**
 * Answers JSON. What was asked for by GET has a tag of its contents (RFC 9110, section 8.8.3), so that who has this very answer
 * already is told so in a few octets (304, section 15.4.5).
 */
export function answerJson(http: HonoContext, answer: unknown): Response {
  const text = JSON.stringify(answer) ?? "null";
  const headers: Record<string, string> = { "Content-Type": "application/json" };
  if (http.req.method === "GET") {
    const tag = `W/"${createHash("sha1").update(text).digest("base64url")}"`;
    headers.ETag = tag;
    if (isAmong(http.req.header("If-None-Match"), tag)) return http.body(null, 304, headers);
  }
  // Told beforehand, so that what is small is not compressed.
  headers["Content-Length"] = String(Buffer.byteLength(text));
  return http.body(text, undefined, headers);
}

/** Compares weakly (RFC 9110, section 13.1.2). */
function isAmong(wanted: string | undefined, tag: string): boolean {
  return wanted?.split(",").some((one) => one.trim() === tag || `W/${one.trim()}` === tag) ?? false;
}
