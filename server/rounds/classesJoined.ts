import { listKeyParts } from "@amigo/core/lists/listKey";
import { fold } from "@amigo/core/text/fold";
import type { RoundPage } from "@amigo/contract/rounds";
import type { Queries } from "../db/connect";
import { countClassesJoined } from "./causeQueries";

/**
 * Returns what each class gets in a round in which many join: its students, their guardians who come onto a list, and
 * lists that are new. Empty for any other round.
 */
export async function classesJoined(
  db: Queries,
  round: number,
  newLists: readonly string[],
): Promise<RoundPage["classes"]> {
  const { rows } = await countClassesJoined(db, round);
  const ofClass = (name: string): number =>
    newLists.filter((key) => listKeyParts(key)?.of.endsWith(`:${fold(name)}`) === true).length;
  return rows.map((row) => ({ ...row, newLists: ofClass(row.name) }));
}
