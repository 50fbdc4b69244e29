import { noSuch, type Refused, refused } from "../refused";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import type { request } from "../db/schema/requests";
import { t } from "../texts/t";
import { findDecidable } from "./queries";

export async function openRequest(
  db: Database,
  id: string,
  caller: Caller,
): Promise<typeof request.$inferSelect | Refused> {
  const row = await findDecidable(db, id, caller);
  if (row === undefined) return noSuch("request");
  if (row.state !== "open")
    return refused(
      409,
      "request/decided",
      t("requests.thisRequestWasBy", { state: row.state, decidedBy: row.decidedBy }),
    );
  return row;
}
