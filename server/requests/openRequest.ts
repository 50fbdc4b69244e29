import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { type request } from "../db/schema/requests";
import { notFound, Refusal } from "../http/fault";
import { t } from "../texts/t";
import { findDecidable } from "./queries";

export async function openRequest(
  db: Database,
  id: string,
  caller: Caller,
): Promise<typeof request.$inferSelect> {
  const row = await findDecidable(db, id, caller);
  if (row === undefined) throw notFound("request");
  if (row.state !== "open")
    throw new Refusal(
      409,
      "request/decided",
      t("requests.thisRequestWasBy", { state: row.state, decidedBy: row.decidedBy }),
    );
  return row;
}
