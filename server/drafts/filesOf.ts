import { eq } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { draftFile } from "../db/schema/drafts";

export function filesOf(db: Queries, id: string) {
  return db
    .select({
      id: draftFile.id,
      name: draftFile.name,
      type: draftFile.type,
      size: draftFile.size,
      cid: draftFile.cid,
    })
    .from(draftFile)
    .where(eq(draftFile.draftId, id))
    .orderBy(draftFile.name);
}
