import type { postDateFile } from "@amigo/contract/dates";
import { disposition } from "../http/disposition";
import { whyOver } from "../calendar/answerInvitation";
import { findInvited } from "../calendar/guestQueries";
import type { Context } from "../context";
import { notFound, Refusal } from "../http/fault";
import type { Answer, FileRequest, Request } from "../http/handler";
import { needCaller } from "../http/route";
import { safeName } from "../sandbox/safeName";
import { t } from "../texts/t";
import { findDate } from "./dateQueries";
import { countLooseFiles, findDateFile, findFileOfAccount, storeDateFile } from "./fileQueries";

const LARGEST = 15 * 1024 * 1024;
/** How many files somebody can have added that don't go with a date yet. */
const MOST_LOOSE = 30;
const ID = /^[0-9a-f-]{36}$/i;

/** Takes a file that is to go with a date. */
export async function addDateFile(
  { db }: Context,
  { body, caller }: Request<typeof postDateFile>,
): Promise<Answer<typeof postDateFile>> {
  const { file } = body;
  if (file.size > LARGEST)
    throw new Refusal(
      422,
      "date/file",
      t("drafts.hasMbAtMostMb", {
        file: file.name,
        size: Math.ceil(file.size / 1024 / 1024),
        most: LARGEST / 1024 / 1024,
      }),
      "file",
    );
  if ((await countLooseFiles(db, caller.id)) >= MOST_LOOSE)
    throw new Refusal(429, "date/files", t("dates.tooManyFilesWait"), "file");
  const content = Buffer.from(await file.arrayBuffer());
  const stored = await storeDateFile(db, caller.id, { name: safeName(file.name, 0), content });
  if (stored === undefined) throw notFound("file");
  return stored;
}

/** Sends a file to whoever sees its date, or has just added it. */
export async function sendDateFile(
  context: Context,
  http: FileRequest<"/api/dates/files/:file">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "see dates");
  const id = http.req.param("file");
  const found = ID.test(id) ? await findFileOfAccount(db, id, caller.id) : undefined;
  const isSeen =
    found !== undefined &&
    (found.dateId === null || (await findDate(db, found.dateId, caller)) !== undefined);
  if (!isSeen) throw notFound("file");
  return asDownload(http, found);
}

/** Sends a file to a guest of its date, by the secret of their invitation; as soon as they aren't invited any more, no longer. */
export async function sendGuestFile(
  { db }: Context,
  http: FileRequest<"/date/:token/files/:file">,
): Promise<Response> {
  const invited = await findInvited(db, http.req.param("token"));
  const id = http.req.param("file");
  const found =
    invited === undefined || whyOver(invited, new Date()) !== undefined || !ID.test(id)
      ? undefined
      : await findDateFile(db, id, invited.date.id);
  return found === undefined ? http.text(t("dates.noSuchFile"), 404) : asDownload(http, found);
}

/** Whatever a file says it is, it is saved and never shown as a page of ours. */
function asDownload(
  http: Pick<FileRequest<string>, "body">,
  { name, content }: { name: string; content: Buffer },
): Response {
  return http.body(new Uint8Array(content), 200, {
    "Content-Type": "application/octet-stream",
    "Content-Disposition": disposition("attachment", name),
    "Cache-Control": "no-store",
  });
}
