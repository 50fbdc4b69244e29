import type { MailHouse } from "@amigo/contract/mail";
import type { Context } from "../context";
import { dnsRecords, keyRecordName } from "./dnsRecords";
import { listMailKeys, type MailKeyRow } from "./mailKeyQueries";

/** For how long the record of a key that has signed must stay, in milliseconds: mail is tried for four days, and may be looked at later. */
const KEPT = 7 * 86_400_000;

/** Until when the record of a key must stay in the DNS after it stopped signing; null for one that never signed or does. */
export function keepUntil({ state, since }: Pick<MailKeyRow, "state" | "since">): Date | null {
  return state === "retired" ? new Date(since.getTime() + KEPT) : null;
}

/** Returns the keys that sign mail, did or will, and the DNS records of the list domain with what was found of them. */
export async function showKeys(
  context: Pick<Context, "db" | "resolver" | "settings">,
  listDomain: string,
): Promise<Pick<MailHouse, "keys" | "records">> {
  const keys = await listMailKeys(context.db);
  const records = await dnsRecords(context, listDomain, keys);
  const states = new Map(records.map(({ name, state }) => [name, state]));
  return {
    records,
    keys: keys.map((key) => ({
      selector: key.selector,
      algorithm: key.algorithm,
      state: key.state,
      since: key.since.toISOString(),
      published: states.get(keyRecordName(key.selector, listDomain)) ?? "missing",
      keepUntil: keepUntil(key)?.toISOString() ?? null,
    })),
  };
}
