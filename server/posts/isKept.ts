import type { Queries } from "../db/connect";
import { listRules } from "./queries";

/** Whether the text of a post is kept to be read: where no list of it keeps an archive, it is not, once it has gone out to the members. */
export async function isKept(
  db: Queries,
  { id, outcome, reaches }: { id: string; outcome: string; reaches: string },
): Promise<boolean> {
  if (outcome !== "goes out" || reaches === "leads") return true;
  const rows = await listRules(db, id);
  return rows.length === 0 || rows.some(({ rules }) => rules.archive !== "none");
}
