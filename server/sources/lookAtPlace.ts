import type { getWatched, postLook, postReadNow } from "@amigo/contract/sources";
import type { Context } from "../context";
import { orRefuse, notFound, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { t } from "../texts/t";
import { watchedFiles } from "./fetchWatched";
import { fetchFor, keepItself } from "./keepItself";
import { findSource } from "./queries";

/** Returns the files of the watched folder; null where this house has none. */
export async function listWatchedFiles(context: Context): Promise<Answer<typeof getWatched>> {
  return context.settings.watched === undefined
    ? null
    : { files: await watchedFiles(context.settings.watched) };
}

/** Fetches what stands in a watched file or at a web address, or what was posted to a source, without keeping it. */
export async function lookAtPlace(
  context: Context,
  { body }: Request<typeof postLook>,
): Promise<Answer<typeof postLook>> {
  if (body.kind === "posted" && !/^[0-9a-f-]{36}$/i.test(body.location)) throw notFound("source");
  const fetched = orRefuse(await fetchFor(context, body.kind, body.location));
  if (!fetched.changed)
    throw new Refusal(503, "source/unchanged", t("sources.theAddressSaidThatNothing"), "location");
  return {
    file: fetched.name,
    base64: Buffer.from(fetched.bytes).toString("base64"),
    writtenAt: fetched.writtenAt,
  };
}

/** Reads a source that keeps itself, now. */
export async function readNow(
  context: Context,
  { params }: Request<typeof postReadNow>,
): Promise<Answer<typeof postReadNow>> {
  const { db } = context;
  const found = await findSource(db, params.id);
  if (found === undefined) throw notFound("source");
  return orRefuse(await keepItself(context, params.id));
}
