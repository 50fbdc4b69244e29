import { getConnInfo } from "@hono/node-server/conninfo";
import type { Context as HonoContext } from "hono";
import ipaddr from "ipaddr.js";
import type { Settings } from "../settings";

/** How many bits of an IPv6 address are one network: what a provider gives to one household (RFC 6177). */
const NETWORK_BITS = 64;

/** The network of whoever asks: of the connection, or behind a proxy of one's own the last that it has written down. */
export function networkAddress(http: HonoContext, { proxied }: Pick<Settings, "proxied">): string {
  const told = proxied ? http.req.header("X-Forwarded-For")?.split(",").at(-1)?.trim() : undefined;
  return networkOf(
    (told === undefined || told === "" ? getConnInfo(http).remote.address : told) ?? "",
  );
}

/**
 * Returns the network of an address as it is counted for limits: an IPv4 address itself, of an IPv6 address its first 64 bits.
 * A port behind it, as some proxies write it, and an IPv4 address within IPv6 make no difference.
 */
export function networkOf(address: string): string {
  const bare =
    /^\[([^\]]+)\](?::\d+)?$/.exec(address)?.[1] ??
    /^([\d.]+)(?::\d+)?$/.exec(address)?.[1] ??
    address.replace(/%.*$/, "");
  if (!ipaddr.isValid(bare)) return "unknown";
  const parsed = ipaddr.process(bare);
  if (parsed.kind() === "ipv4") return parsed.toString();
  const octets = parsed.toByteArray().map((octet, at) => (at < NETWORK_BITS / 8 ? octet : 0));
  return `${ipaddr.fromByteArray(octets).toString()}/${NETWORK_BITS}`;
}
