import { and, eq } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { request } from "../db/schema/requests";
import { notFound, Refusal } from "../http/fault";
import { decidable } from "../membership/scope";
import { t } from "../texts/t";

export async function openRequest(
  db: Database,
  id: string,
  caller: Caller,
): Promise<typeof request.$inferSelect> {
  const [row] = await db
    .select()
    .from(request)
    .where(and(eq(request.id, id), decidable(caller)));
  if (row === undefined) throw notFound("request");
  if (row.state !== "open")
    throw new Refusal(
      409,
      "request/decided",
      t("requests.thisRequestWasBy", { state: row.state, decidedBy: row.decidedBy }),
    );
  return row;
}
