import { listKeyParts } from "@amigo/core/lists/listKey";
import { fold } from "@amigo/core/text/fold";
import type { Queries } from "../db/connect";
import { existingLists } from "../membership/existingLists";
import { countGuardiansJoined, listTouchedKeys } from "./causeQueries";
import type { Joining } from "./outline";

/** Returns what each class gets in a round in which many join: guardians who come onto a list, and lists that are new. */
export async function classesJoined(
  db: Queries,
  seasonId: number,
  round: number,
): Promise<Joining> {
  const existing = await existingLists(db, seasonId);
  const touched = await listTouchedKeys(db, round);
  const newLists = new Map<string, number>();
  for (const { key } of touched.rows) {
    const name = existing.has(key) ? undefined : cohortIn(key);
    if (name !== undefined) newLists.set(name, (newLists.get(name) ?? 0) + 1);
  }
  const { rows } = await countGuardiansJoined(db, round);
  return new Map(
    rows.map(({ name, guardians }) => [
      name,
      { guardians, newLists: newLists.get(fold(name)) ?? 0 },
    ]),
  );
}

/** The folded name of the class for which a list is made, such as `wire walk` of `2:class:wire walk`. */
function cohortIn(key: string): string | undefined {
  const of = listKeyParts(key)?.of;
  return of?.slice(of.indexOf(":") + 1);
}
