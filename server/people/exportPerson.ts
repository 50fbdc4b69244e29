import { orRefuse } from "../http/fault";
import type { FileRequest } from "../http/handler";
import type { Context } from "../context";
import { needCaller } from "../http/route";
import { record } from "../events/record";
import { t } from "../texts/t";
import { personRecord } from "./personRecord";

/** Sends everything that is kept about a person. */
export async function exportPerson(
  context: Context,
  http: FileRequest<"/api/people/:id/record">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "export people");
  const all = orRefuse(await personRecord(db, http.req.param("id").slice(0, 100)));
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "export person",
    sentence: () => t("people.exportedEverythingThatIsKept", { name: caller.name }),
  });
  return http.body(JSON.stringify(all, null, 2), 200, {
    "Content-Type": "application/json; charset=utf-8",
    "Content-Disposition": 'attachment; filename="person.json"',
    "Cache-Control": "no-store",
  });
}
