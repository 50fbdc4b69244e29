import type { FileRequest } from "../http/handler";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import { needCaller } from "../http/route";
import { record } from "../events/record";
import { loadList } from "../membership/loadList";
import { t } from "../texts/t";
import { EXPORT_FORMATS, exportLists } from "./exportLists";
import { filterMembers, memberTable } from "./memberTable";

const MOST_EXPORTED = 2000;

/** Sends all lists that somebody sees, in the format of choice. */
export async function exportAllLists(
  context: Context,
  http: FileRequest<"/api/lists/export/:format">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "see lists");
  const format = EXPORT_FORMATS.find((known) => known === http.req.param("format"));
  if (format === undefined)
    throw new Refusal(
      400,
      "bad-request",
      t("lists.thereIsNoSuchFormat", { formats: EXPORT_FORMATS.join(", ") }),
    );
  const ids = (http.req.query("lists") ?? "")
    .split(",")
    .filter((id) => /^[0-9a-f-]{36}$/i.test(id))
    .slice(0, MOST_EXPORTED);
  if (ids.length === 0) throw new Refusal(400, "bad-request", t("lists.nameTheListsToExport"));
  const lists: Parameters<typeof exportLists>[0][number][] = [];
  for (const id of ids) {
    const found = orRefuse(await loadList(db, id, caller));
    lists.push({
      title: found.title,
      address: `${found.name}@${found.listDomain}`,
      description: found.description,
      members: filterMembers(await memberTable(db, found, undefined), http.req.query("q") ?? ""),
    });
  }
  const { bytes, type } = exportLists(lists, format);
  await record(
    db,
    ...ids.map((listId, at) => ({
      actorId: caller.id,
      actor: caller.name,
      action: "export list" as const,
      listId,
      sentence: () =>
        t("lists.exportedAs", {
          name: caller.name,
          title: lists[at]?.title ?? "",
          format,
        }),
    })),
  );
  const name =
    lists.length === 1 ? (lists[0]?.address.split("@")[0] ?? "list") : `${lists.length}-lists`;
  return http.body(new Uint8Array(bytes), 200, {
    "Content-Type": type,
    "Content-Disposition": `attachment; filename="${name}.${format}"`,
    "Cache-Control": "no-store",
  });
}
