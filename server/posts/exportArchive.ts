import type { FileRequest } from "../http/handler";
import { stream } from "hono/streaming";
import { mboxEntry } from "@amigo/core/mail/mbox";
import type { Context } from "../context";
import { orRefuse, notFound } from "../http/fault";
import { needCaller } from "../http/route";
import { record } from "../events/record";
import { loadList } from "../membership/loadList";
import { t } from "../texts/t";
import { listArchivedIds, findRawPost } from "./queries";

/** The archive of a list as one mailbox file (RFC 4155), as it may be read by who asks. */
export async function exportArchive(
  context: Context,
  http: FileRequest<"/api/lists/:id/archive.mbox">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "see posts");
  const id = http.req.param("id");
  if (!/^[0-9a-f-]{36}$/i.test(id)) throw notFound("list");
  const found = orRefuse(await loadList(db, id, caller));
  const rows = found.rules.archive === "none" ? [] : await listArchivedIds(db, id);
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "export archive",
    listId: id,
    sentence: () => t("posts.exportedTheArchiveOf", { name: caller.name, title: found.title }),
  });
  http.header("Content-Type", "application/mbox");
  http.header("Content-Disposition", `attachment; filename="${found.name}.mbox"`);
  http.header("Cache-Control", "no-store");
  // One message at a time is in memory.
  return stream(http, async (out) => {
    for (const row of rows) {
      const one = await findRawPost(db, row.id);
      if (one !== undefined && one.raw.length > 0)
        await out.write(mboxEntry(one.raw, one.from, one.at));
    }
  });
}
