import type { Context as HonoContext } from "hono";
import { byteRange } from "@amigo/core/shelf/byteRange";
import { fileType } from "@amigo/core/shelf/fileType";
import { disposition } from "../http/disposition";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { notFound } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { findMember, needCaller } from "../http/route";
import { t } from "../texts/t";
import { linkPage } from "../http/linkPage";
import { html } from "hono/html";
import { readBlob } from "./blobs";
import { mayAddressesOpen } from "./openers";
import { findAnyThing, findThing, listVersions, storeOpening } from "./queries";

const ID = /^[0-9a-f-]{36}$/i;

/** Sends a version of a file to whoever looks after its shelf. */
export async function sendVersion(
  context: Context,
  http: FileRequest<"/api/shelf/:id/files/:version">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "see lists");
  const [id, version] = [http.req.param("id"), Number(http.req.param("version"))];
  const row = ID.test(id) ? await findThing(db, id, caller) : undefined;
  const found =
    row === undefined
      ? undefined
      : (await listVersions(db, id)).find(({ number }) => number === version);
  if (found === undefined) throw notFound("file");
  return sendBlob(context, http, { ...found, id: found.blobId });
}

/**
 * Opens a thing for a member: a file is sent, a link leads on. Whether they may is judged now, by the lists that they are on now;
 * that they did is noted for those who look after the shelf.
 */
export async function openForMember(
  context: Context,
  http: FileRequest<"/api/member/shelf/:id/files/open">,
): Promise<Response> {
  const { db } = context;
  const address = await findMember(http, context);
  const id = http.req.param("id");
  if (address === undefined) return http.redirect(`/member/shelf/${encodeURIComponent(id)}`);
  const row = ID.test(id) ? await findAnyThing(db, id) : undefined;
  const judged =
    row === undefined ? undefined : await mayAddressesOpen(db, row, [address], new Date());
  const found = judged?.get(address);
  if (row === undefined || found?.may !== true) return http.html(notForThem(), 404);
  await noteOpening(db, row.thing.id, address, http);
  if (row.thing.kind === "link") return http.redirect(row.thing.link, 302);
  if (row.blobId === null) throw notFound("file");
  return sendBlob(context, http, { id: row.blobId, name: row.name ?? "", size: row.size ?? 0 });
}

/** Notes that a member opens a thing. The first part of a film counts, not each of those that follow. */
export async function noteOpening(
  db: Database,
  id: string,
  address: string,
  http: HonoContext,
): Promise<void> {
  if (/^bytes=[1-9]/.test(http.req.header("Range") ?? "")) return;
  if (await storeOpening(db, id, address)) await notify(db, "shelf");
}

function notForThem() {
  return linkPage(t("shelf.notOpenToYou"), html`<p>${t("shelf.onlyMembersOpenIt")}</p>`);
}

/** Sends octets that are kept as a file, whole or the part that is asked for. */
export function sendBlob(
  context: Context,
  http: HonoContext,
  { id, name, size }: { id: string; name: string; size: number },
): Response {
  const { type, shownAs } = fileType(name);
  const range = byteRange(http.req.header("Range"), size);
  const headers: Record<string, string> = {
    "Content-Type": type,
    "Content-Disposition": disposition(shownAs !== "" ? "inline" : "attachment", name),
    "Cache-Control": "no-store",
    "Accept-Ranges": "bytes",
  };
  if (range === "none")
    return new Response(null, {
      status: 416,
      headers: { ...headers, "Content-Range": `bytes */${size}` },
    });
  const part = range ?? { first: 0, last: size - 1 };
  return new Response(readBlob(context, { id, size }, part), {
    status: range === undefined ? 200 : 206,
    headers: {
      ...headers,
      "Content-Length": String(part.last - part.first + 1),
      ...(range === undefined
        ? {}
        : { "Content-Range": `bytes ${part.first}-${part.last}/${size}` }),
    },
  });
}
