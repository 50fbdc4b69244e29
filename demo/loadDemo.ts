import { eq, sql } from "drizzle-orm";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { recipeFacts } from "@amigo/core/lists/firstRecipes";
import { staffId } from "@amigo/core/facts/subjects";
import { fold } from "@amigo/core/text/fold";
import { hashPassword } from "@amigo/server/accounts/password";
import type { Database, Queries } from "@amigo/server/db/connect";
import { loadFacts } from "@amigo/server/facts/queries";
import { storeFirst } from "@amigo/server/facts/first";
import { storeStaff } from "@amigo/server/facts/staff";
import { record } from "@amigo/server/events/record";
import { carryOut } from "@amigo/server/change/carryOut";
import { DEMO_PASSWORD, HOUSE, PEOPLE, RECIPES, SHORT_FORMS, SITES } from "./copperwheel";
import { lastSeasonFacts } from "./lastSeason";
import { house, season, site } from "@amigo/server/db/schema/house";
import { account } from "@amigo/server/db/schema/accounts";
import { list, privateList, privateListPerson } from "@amigo/server/db/schema/lists";

/** Loads the Copperwheel demo house into an empty database; does nothing where a house is set up already. */
export async function loadDemo(db: Database): Promise<boolean> {
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  return db.transaction(async (tx) => {
    const made = await tx
      .insert(house)
      .values({ id: 1, ...HOUSE, demo: true })
      .onConflictDoNothing()
      .returning();
    if (made.length === 0) return false;
    const [last, current] = await tx
      .insert(season)
      .values([
        { label: "2025-26", current: false, overOn: "2026-07-31" },
        { label: "2026-27", current: true },
      ])
      .returning({ id: season.id });
    const sites = await tx.insert(site).values(SITES).returning();
    const people = await tx
      .insert(account)
      .values(
        PEOPLE.map(({ site: code, ...person }) => ({
          ...person,
          passwordHash,
          siteId: sites.find((row) => row.code === code)?.id ?? null,
          createdAt: new Date(),
        })),
      )
      .returning();
    await loadLastSeason(tx, last?.id ?? 0);
    await storeFirst(tx, current?.id ?? 0, "Juno Abara", RECIPES, SHORT_FORMS);
    await storeStaff(
      tx,
      people
        .filter(({ role }) => role !== "helper")
        .map(({ id, name, email, siteId }) => ({
          id,
          name,
          email,
          site: sites.find((row) => row.id === siteId)?.name ?? "",
        })),
      "Juno Abara",
    );
    // What hangs on no roster is there from the first day: the list of the whole staff.
    const facts = await loadFacts(tx, current?.id ?? 0);
    await carryOut(
      tx,
      { id: null, name: "Juno Abara" },
      { round: 0, seasonId: current?.id ?? 0, words: () => "The set-up" },
      facts,
      facts,
    );
    await loadPrivateList(tx, people);
    await record(tx, {
      actor: "Amigo",
      action: "set up",
      sentence: () => `The demo house, ${HOUSE.name}, was loaded`,
    });
    return true;
  });
}

/** A list that the coordinator keeps for herself. */
async function loadPrivateList(
  tx: Queries,
  people: readonly { id: string; name: string }[],
): Promise<void> {
  const juno = people.find(({ name }) => name === "Juno Abara");
  const [made] =
    juno === undefined
      ? []
      : await tx
          .insert(privateList)
          .values({ accountId: juno.id, name: "Rigging crew" })
          .returning({ id: privateList.id });
  if (made === undefined) return;
  await tx
    .insert(privateListPerson)
    .values(
      people
        .filter(({ name }) => ["Teo Bramwell", "Sunniva Hale", "Petra Dunmore"].includes(name))
        .map(({ id, name }) => ({ privateListId: made.id, person: staffId(id), name })),
    );
}

/** The season that is over: its lists are closed, can be read, and tell who writes to them which list there is now. */
async function loadLastSeason(tx: Queries, seasonId: number): Promise<void> {
  const origin = { from: "hand", by: "Juno Abara", at: "2025-09-08T08:00:00.000Z" } as const;
  const facts: Fact[] = [
    ...lastSeasonFacts(),
    ...recipeFacts(RECIPES.slice(0, 2), origin),
    ...Object.entries(SHORT_FORMS).map(([name, value]): Fact => ({
      subject: `short:${fold(name)}`,
      kind: "short",
      ref: "",
      value,
      origin,
    })),
  ];
  await carryOut(
    tx,
    { id: null, name: "Juno Abara" },
    { round: 0, seasonId, words: () => "The season 2025-26" },
    new Map(),
    new Map(facts.map((fact) => [factKey(fact), fact])),
  );
  await tx
    .update(list)
    .set({ closedAt: new Date("2026-07-31T18:00:00Z"), successorKey: sql`${list.key}` })
    .where(eq(list.seasonId, seasonId));
}
