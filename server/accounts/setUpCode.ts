import { createHmac } from "node:crypto";
import { getConnInfo } from "@hono/node-server/conninfo";
import type { Context as HonoContext } from "hono";
import { networkOf } from "../http/networkAddress";

/** Letters and digits that nobody takes for one another. */
const SIGNS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789";
const GROUPS = 3;
const GROUP = 4;

/** Fields by which a proxy says that somebody else asks through it. */
const BY_PROXY = ["X-Forwarded-For", "Forwarded", "X-Real-IP", "Via"];

/**
 * Returns the code with which an empty house is set up from another machine. It is printed at the start, and the same for all
 * processes that share the house's key, so nothing has to be kept.
 */
export function setUpCode(houseKey: string): string {
  const octets = createHmac("sha256", houseKey).update("set up this house").digest();
  const letters = [...octets.subarray(0, GROUPS * GROUP)].map(
    (octet) => SIGNS[octet % SIGNS.length] ?? "",
  );
  return Array.from({ length: GROUPS }, (_, at) =>
    letters.slice(at * GROUP, (at + 1) * GROUP).join(""),
  ).join("-");
}

/** Whether somebody asks from this very machine, and through no proxy: who can do that has the program itself in hand. */
export function asksFromHere(http: HonoContext): boolean {
  const from = networkOf(getConnInfo(http).remote.address ?? "");
  return (
    (from.startsWith("127.") || from === networkOf("::1")) &&
    BY_PROXY.every((field) => http.req.header(field) === undefined)
  );
}
