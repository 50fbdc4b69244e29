import { createHash } from "node:crypto";
import type { Queries } from "../db/connect";
import type { Item } from "./collection";
import { findSyncState, storeSyncState } from "./queries";

const TOKEN = "urn:amigo:sync:";

/** What has changed in a collection since a program last asked. */
export interface Changes {
  token: string;
  changed: Item[];
  /** The names of what is gone. */
  gone: string[];
}

/** Returns the token of a collection as it stands: it is another one as soon as anything of it is (RFC 6578, section 3.2). */
export function syncTokenOf(items: readonly Item[]): string {
  return `${TOKEN}${createHash("sha256")
    .update(JSON.stringify(sorted(items)))
    .digest("hex")}`;
}

function sorted(items: readonly Item[]): [name: string, version: string][] {
  return items
    .map(({ name, version }): [string, string] => [name, version])
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
}

/**
 * Returns what has changed since a token was given to an account. It is found by comparing with what the account was told
 * then, so that what it may no longer see is gone for it, too.
 *
 * @param known the token; empty for everything
 * @returns undefined where the token isn't known any more
 */
export async function changesSince(
  db: Queries,
  account: string,
  collection: string,
  items: readonly Item[],
  known: string,
): Promise<Changes | undefined> {
  const before = known === "" ? {} : await findSyncState(db, account, collection, known);
  if (before === undefined) return undefined;
  const token = syncTokenOf(items);
  if (token !== known)
    await storeSyncState(db, account, collection, token, Object.fromEntries(sorted(items)));
  const names = new Set(items.map(({ name }) => name));
  return {
    token,
    changed: items.filter(({ name, version }) => before[name] !== version),
    gone: Object.keys(before).filter((name) => !names.has(name)),
  };
}
