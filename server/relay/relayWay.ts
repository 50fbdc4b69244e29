import { isIP } from "node:net";
import type { Settings } from "../settings";

/** How the relay is spoken to. */
export interface RelayWay {
  /** The relay as an `smtp://` or `smtps://` address, with user and password where it wants them. */
  url: string;
  /** Whether nothing is sent without TLS, and whether the relay's certificate has to be valid. */
  requireTls: boolean;
  verify: boolean;
  /** Whether the password may be sent without TLS. */
  loginInClear: boolean;
  /** The name said in EHLO (RFC 5321, section 4.1.1.1); undefined for the machine's. */
  helo: string | undefined;
}

/**
 * Returns how to speak to the relay that the settings name. Certificates are not verified on loopback: the mail system of a Debian
 * machine has one that it signed itself, and nobody can stand in between.
 */
export function relayWay({
  relay,
  relayTls,
  relayLoginInClear,
  relayHelo,
}: Pick<Settings, "relay" | "relayTls" | "relayLoginInClear" | "relayHelo">): RelayWay {
  return {
    url: relay,
    requireTls: relayTls === "required",
    verify: relayTls !== "unverified" && !isLoopback(new URL(relay).hostname),
    loginInClear: relayLoginInClear,
    helo: relayHelo,
  };
}

/** Whether a host is this very machine (RFC 1122, section 3.2.1.3; RFC 6761, section 6.3). */
export function isLoopback(host: string): boolean {
  const name = host.replace(/^\[|\]$/g, "").toLowerCase();
  return (
    name === "localhost" ||
    name.endsWith(".localhost") ||
    name === "::1" ||
    (isIP(name) === 4 && name.startsWith("127."))
  );
}
