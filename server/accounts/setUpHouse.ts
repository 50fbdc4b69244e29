import type { z } from "zod";
import type { SetUp } from "@amigo/contract/accounts";
import { hashPassword } from "./password";
import type { Database } from "../db/connect";
import { account, house, recipe, season } from "../db/schema";
import { Refusal } from "../http/fault";
import { record } from "../journal/record";

/** The recipes that every house starts with. */
export const FIRST_RECIPES = [
  { name: "Students of each class", label: "Students", position: 1, audience: "students in this class", pattern: "{site}-{class}-{season}", preset: "announcement-only" as const, insideOnly: true },
  { name: "Guardians of each class", label: "Guardians", position: 2, audience: "guardians of students in this class", pattern: "{site}-{class}-parents-{season}", preset: "announcement-only" as const },
];

/**
 * Sets up a house that holds nothing yet, with its season, recipes and first coordinator.
 *
 * @returns the coordinator's account id
 * @throws Refusal 409 when the house is set up already
 */
export async function setUpHouse(db: Database, wanted: z.output<typeof SetUp>): Promise<string> {
  const passwordHash = await hashPassword(wanted.password);
  return db.transaction(async (tx) => {
    const made = await tx.insert(house).values({ id: 1, name: wanted.house, insideDomain: wanted.insideDomain, listDomain: wanted.listDomain }).onConflictDoNothing().returning();
    if (made.length === 0) throw new Refusal(409, "set-up/done", "This house is set up already. Sign in.");
    await tx.insert(season).values({ label: wanted.season, current: true });
    await tx.insert(recipe).values(FIRST_RECIPES);
    const [first] = await tx.insert(account).values({ name: wanted.name, email: wanted.email, passwordHash, role: "coordinator" }).returning({ id: account.id });
    await record(tx, { actorId: first?.id ?? null, actor: wanted.name, action: "set up", sentence: `${wanted.name} set up ${wanted.house}` });
    return first?.id ?? "";
  });
}
