import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import type { Settings } from "./settings";

/** Returns the version of this Amigo. */
export function ownVersion(): string {
  const file = fileURLToPath(new URL("../package.json", import.meta.url));
  return (JSON.parse(readFileSync(file, "utf8")) as { version: string }).version;
}

/** Returns what the log says of the settings at the start: never a password, a key or what stands in an address behind its host. */
export function aboutSettings(settings: Settings): Record<string, unknown> {
  const host = (url: string): string => new URL(url).host;
  return {
    version: ownVersion(),
    node: process.versions.node,
    roles: [...settings.roles],
    url: new URL(settings.url).origin,
    database: host(settings.databaseUrl),
    relay: host(settings.relay),
    relayTls: settings.relayTls,
    data: settings.data,
    tls: settings.tls !== undefined,
    shelfStore: settings.shelfStore === undefined ? undefined : host(settings.shelfStore.endpoint),
    scanner: settings.scanner?.host,
    spamFilter: settings.spamFilter === undefined ? undefined : host(settings.spamFilter),
    backups: settings.backups?.folder,
    proxied: settings.proxied,
    demo: settings.demo,
  };
}
