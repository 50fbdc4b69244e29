import type { Draft } from "@amigo/contract/drafts";
import type { Queries } from "../db/connect";
import { type draft } from "../db/schema/drafts";
import { filesOf } from "./queries";

export async function draftWithFiles(
  from: Queries,
  row: typeof draft.$inferSelect,
): Promise<Draft> {
  return {
    id: row.id,
    // Drafts from before there were languages don't name any.
    content: { ...{ language: "" as const, versions: [] }, ...row.content },
    files: await filesOf(from, row.id),
    sendAt: row.sendAt?.toISOString() ?? null,
    changedAt: row.changedAt.toISOString(),
    fault: row.fault,
  };
}
