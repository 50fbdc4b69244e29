import { readFileSync } from "node:fs";
import { HOUSE } from "./copperwheel";

interface Directory {
  domains: string[];
}

let known: Set<string> | undefined;

/** The domains of Mailtown and of the house, which name this machine as their relay. */
function domains(): Set<string> {
  known ??= new Set([
    HOUSE.insideDomain,
    ...(JSON.parse(readFileSync(new URL("./mailtown.json", import.meta.url), "utf8")) as Directory)
      .domains,
  ]);
  return known;
}

/**
 * The demo house's own DNS zone, in the shape of Node's `resolve`: every domain of Mailtown says by SPF (RFC 7208) that
 * mail from this machine is its own. Nothing else is there, and nothing is asked of the network.
 */
export async function demoZone(domain: string, type: string): Promise<string[][] | string[]> {
  const name = domain.toLowerCase().replace(/\.$/, "");
  if (domains().has(name) && type === "TXT") return [["v=spf1 ip4:127.0.0.0/8 ip6:::1 -all"]];
  throw Object.assign(new Error(`${name} has no ${type} record here`), {
    code: domains().has(name) ? "ENODATA" : "ENOTFOUND",
  });
}
