import { fold } from "@amigo/core/text/fold";
import { hashPassword } from "@amigo/server/accounts/password";
import type { Database } from "@amigo/server/db/connect";
import { account, house, recipe, season, shortForm, site } from "@amigo/server/db/schema";
import { FIRST_RECIPES } from "@amigo/server/accounts/setUpHouse";
import { record } from "@amigo/server/journal/record";
import { DEMO_PASSWORD, HOUSE, PEOPLE, SHORT_FORMS, SITES } from "./copperwheel";

/** Loads the Copperwheel demo house into an empty database; does nothing where a house is set up already. */
export async function loadDemo(db: Database): Promise<boolean> {
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  return db.transaction(async (tx) => {
    const made = await tx.insert(house).values({ id: 1, ...HOUSE, demo: true }).onConflictDoNothing().returning();
    if (made.length === 0) return false;
    await tx.insert(season).values([{ label: "2025-26", current: false, overOn: "2026-07-31" }, { label: "2026-27", current: true }]);
    const sites = await tx.insert(site).values(SITES).returning();
    await tx.insert(shortForm).values(Object.entries(SHORT_FORMS).map(([name, short]) => ({ folded: fold(name), short })));
    await tx.insert(recipe).values(FIRST_RECIPES);
    for (const { site: code, ...person } of PEOPLE) {
      await tx.insert(account).values({ ...person, passwordHash, siteId: sites.find((row) => row.code === code)?.id ?? null, createdAt: new Date() });
    }
    await record(tx, { actor: "Amigo", action: "set up", sentence: `The demo house, ${HOUSE.name}, was loaded` });
    return true;
  });
}
