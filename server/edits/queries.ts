import { alphabetical } from "../db/alphabetical";
import { and, ne, sql } from "drizzle-orm";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { house } from "../db/schema/house";

/** Stores the house's naming rules. */
export async function storeNaming(
  db: Queries,
  nameLimit: number,
  reserved: string[],
  convention: "advises" | "binds",
): Promise<void> {
  await db.update(house).set({
    nameLimit,
    reservedNames: reserved,
    convention,
  });
}

/** Lists the accounts that can lead a list. */
export function listPossibleLeads(db: Queries) {
  return db
    .select({ id: account.id, name: account.name })
    .from(account)
    .where(and(accountInForce, ne(account.role, "helper")))
    .orderBy(alphabetical(account.name));
}

export async function today(db: Queries): Promise<string> {
  const [found] = await db.select({ timeZone: sql<string>`${house.timeZone}` }).from(house);
  return dayIn(found?.timeZone ?? "UTC", new Date());
}
