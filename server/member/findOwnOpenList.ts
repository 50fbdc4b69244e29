import { noSuch, type Refused } from "../refused";
import type { Database } from "../db/connect";
import type { list } from "../db/schema/lists";
import { findOwnList } from "./queries";

/** A list that a member is on; for any other, nobody is told whether there is one. */
export async function findOwnOpenList(
  db: Database,
  id: string,
  address: string,
): Promise<Pick<typeof list.$inferSelect, "id" | "seasonId" | "rules"> | Refused> {
  const found = await findOwnList(db, address, id);
  if (found === undefined) return noSuch("list");
  return found;
}
