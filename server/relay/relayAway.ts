import type { RelayAway } from "@amigo/contract/house";
import type { Queries } from "../db/connect";
import type { Settings } from "../settings";
import { relayName } from "./relayGate";
import { findRelayAway } from "./relayQueries";

/** Returns since when no mail goes out, as the relay can't be reached, and why; null while it answers. */
export async function relayAway(
  db: Queries,
  { relay }: Pick<Settings, "relay">,
): Promise<RelayAway | null> {
  const name = relayName(relay);
  const found = await findRelayAway(db, name);
  return found === undefined
    ? null
    : { relay: name, since: found.since.toISOString(), words: found.words };
}
