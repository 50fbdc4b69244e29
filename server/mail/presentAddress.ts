import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Queries } from "../db/connect";
import { listFormerDomains } from "../db/houseQueries";

/**
 * Returns how an address that mail is for is written today: at the list domain, where it is still at one that lists had before and
 * that is in its time of grace. Other addresses stay as they are.
 */
export async function presentAddress(
  db: Queries,
  { listDomain, timeZone }: { listDomain: string; timeZone: string },
  now: Date,
): Promise<(address: string) => string> {
  const today = dayIn(timeZone, now);
  const former = new Set(
    (await listFormerDomains(db))
      .filter(({ lastDay }) => lastDay >= today)
      .map(({ domain }) => domain),
  );
  return (address) => {
    const at = address.lastIndexOf("@");
    return former.has(address.slice(at + 1).toLowerCase())
      ? `${address.slice(0, at)}@${listDomain}`
      : address;
  };
}
