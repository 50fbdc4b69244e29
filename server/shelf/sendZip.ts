import type { Context } from "../context";
import { notify } from "../events/events";
import { notFound, orRefuse } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { findMember, needCaller } from "../http/route";
import { disposition } from "../http/disposition";
import { noSuch, refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { openableBy } from "./openers";
import { listListsOfThings } from "./placeQueries";
import { listThings, storeOpening, type ThingRow } from "./queries";
import { findShelf } from "./shelfOf";
import { MOST_IN_ZIP, zipFiles, type FileToZip } from "./zipFiles";

const ID = /^[0-9a-f-]{36}$/i;

/** Sends the files of a list's shelf, or of one of its folders, as one archive to whoever looks after it. */
export async function sendShelfZip(
  context: Context,
  http: FileRequest<"/api/lists/:id/shelf/files/zip">,
): Promise<Response> {
  const caller = await needCaller(http, context, "see lists");
  const id = http.req.param("id");
  if (!ID.test(id)) throw notFound("list");
  const found = orRefuse(await findShelf(context.db, id, caller));
  const folder = http.req.query("folder");
  const things = (await listThings(context.db, [found.id])).filter(
    ({ thing }) => folder === undefined || thing.folder === folder,
  );
  return send(context, folder ?? found.title, orRefuse(filesOf(things)));
}

/** Sends what a list shares with a member as one archive; that they have opened it all is noted. */
export async function sendMemberZip(
  context: Context,
  http: FileRequest<"/api/member/lists/:id/shelf/files/zip">,
): Promise<Response> {
  const { db } = context;
  const address = await findMember(http, context);
  const id = http.req.param("id");
  if (address === undefined || !ID.test(id)) throw notFound("list");
  const openable = (await openableBy(db, address, new Date())).map(({ row }) => row);
  const places = await listListsOfThings(
    db,
    openable.map(({ thing }) => thing.id),
  );
  const here = new Set(places.filter((place) => place.id === id).map(({ thing }) => thing));
  const things = openable.filter(({ thing }) => here.has(thing.id));
  const files = orRefuse(filesOf(things));
  for (const { thing } of things)
    if (thing.kind === "file") await storeOpening(db, thing.id, address);
  await notify(db, "shelf");
  return send(context, places.find((place) => place.id === id)?.title ?? "", files);
}

/** The files of some things as they go into an archive; refused where there are none, or too much for one. */
function filesOf(things: readonly ThingRow[]): FileToZip[] | Refused {
  const files = things.flatMap(({ thing: { folder }, name, size, blobId }) =>
    blobId === null ? [] : [{ folder, name: name ?? "", size: size ?? 0, blobId }],
  );
  if (files.length === 0) return noSuch("file");
  return files.reduce((sum, { size }) => sum + size, 0) > MOST_IN_ZIP
    ? refused(413, "shelf/too-much", t("shelf.tooMuchForZip"))
    : files;
}

function send(context: Context, title: string, files: readonly FileToZip[]): Response {
  return new Response(zipFiles(context, files), {
    headers: {
      "Content-Type": "application/zip",
      "Content-Disposition": disposition("attachment", `${title}.zip`),
      "Cache-Control": "no-store",
    },
  });
}
