import { getConnInfo } from "@hono/node-server/conninfo";
import type { Context as HonoContext } from "hono";
import type { Settings } from "../settings";

/** The network address of whoever asks: of the connection, or behind a proxy of one's own the last that it has written down. */
export function networkAddress(http: HonoContext, { proxied }: Pick<Settings, "proxied">): string {
  const told = proxied ? http.req.header("X-Forwarded-For")?.split(",").at(-1)?.trim() : undefined;
  return (told === undefined || told === "" ? getConnInfo(http).remote.address : told) ?? "unknown";
}
