import { eq, inArray, sql } from "drizzle-orm";
import { familyLanguage, type FamilyLanguage } from "@amigo/language/families";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { addressLanguage } from "../db/schema/members";
import { goOnIn } from "./inLanguage";

/** By what a language of an address is known, the surest first. */
export type KnownBy = "choice" | "form" | "browser";

/** Returns in which language families are written to where nothing else is known: the house's, or English. */
export async function usualLanguage(db: Queries): Promise<FamilyLanguage> {
  return familyLanguage((await loadHouse(db))?.language ?? "") ?? "en";
}

/** Returns the language in which Amigo writes to each of some addresses: what was chosen or seen there, else the usual one. */
export async function languagesOf(
  db: Queries,
  addresses: readonly string[],
): Promise<(address: string) => FamilyLanguage> {
  const known = new Map<string, FamilyLanguage>();
  if (addresses.length > 0)
    for (const { address, language } of await db
      .select()
      .from(addressLanguage)
      .where(inArray(addressLanguage.address, [...addresses]))) {
      const found = familyLanguage(language);
      if (found !== undefined) known.set(address, found);
    }
  const usual = await usualLanguage(db);
  return (address) => known.get(address) ?? usual;
}

/** Returns the language in which Amigo writes to an address. */
export async function languageOf(db: Queries, address: string): Promise<FamilyLanguage> {
  return (await languagesOf(db, [address]))(address);
}

/** Keeps the language of an address, unless a surer one is known: its owner's choice before their form's, that before their browser's. */
export async function keepLanguage(
  db: Queries,
  address: string,
  language: FamilyLanguage,
  by: KnownBy,
): Promise<void> {
  const rank = sql`array_position(array['choice', 'form', 'browser'], ${addressLanguage.knownBy})`;
  await db
    .insert(addressLanguage)
    .values({ address, language, knownBy: by })
    .onConflictDoUpdate({
      target: addressLanguage.address,
      set: { language, knownBy: by },
      setWhere: sql`${rank} >= array_position(array['choice', 'form', 'browser'], ${by})`,
    });
}

/** Returns the language that is known of an address; undefined where none is. */
export async function knownLanguage(
  db: Queries,
  address: string,
): Promise<FamilyLanguage | undefined> {
  const [known] = await db
    .select({ language: addressLanguage.language })
    .from(addressLanguage)
    .where(eq(addressLanguage.address, address));
  return familyLanguage(known?.language ?? "");
}

/** Goes on in the language that is known of an address, where one is. */
export async function speakTo(db: Queries, address: string): Promise<void> {
  const language = await knownLanguage(db, address);
  if (language !== undefined) goOnIn(language);
}
