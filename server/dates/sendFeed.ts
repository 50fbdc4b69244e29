import { createHash } from "node:crypto";
import { writeCalendar } from "@amigo/core/calendar/writeCalendar";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import type { FileRequest } from "../http/handler";
import { t } from "../texts/t";
import { findFeed, findFeedVersion, listFeedDates, type FeedOf } from "./feedQueries";
import { calendarDateOf } from "./invitationMail";

/** How many prepared calendars a process keeps. */
const MOST_KEPT = 200;

/**
 * Calendars as they were last written, by their secrets and versions: programs ask for them every hour, and they seldom change. What is
 * kept is only a copy of what the database says, so that any other process answers the same.
 */
const prepared = new Map<string, { tag: string; text: string }>();

/** Sends a calendar to whoever knows its secret address. Nobody who is invited is named in it. */
export async function sendFeed(
  { db }: Context,
  http: FileRequest<"/calendar/:file{[A-Za-z0-9_-]+\\.ics}">,
): Promise<Response> {
  const secret = http.req.param("file").slice(0, -".ics".length);
  const found = await findFeed(db, secret);
  if (found === undefined) return http.text(t("dates.noSuchCalendar"), 404);
  const { feed, list, account } = found;
  const caller: Caller | undefined = account === null ? undefined : { ...account, by: "session" };
  const of = feedOf(feed);
  const tag = `"${createHash("sha256")
    .update(`${await findFeedVersion(db, of, caller)} ${list ?? ""}`)
    .digest("hex")
    .slice(0, 32)}"`;
  const headers = { ETag: tag, "Cache-Control": "private, no-cache" };
  if (namesTag(http.req.header("If-None-Match"), tag))
    return new Response(null, { status: 304, headers });
  let kept = prepared.get(secret);
  if (kept?.tag !== tag) {
    kept = { tag, text: await write(db, of, caller, list) };
    prepared.delete(secret);
    prepared.set(secret, kept);
    const [oldest] = prepared.keys();
    if (prepared.size > MOST_KEPT && oldest !== undefined) prepared.delete(oldest);
  }
  return new Response(kept.text, {
    headers: {
      ...headers,
      "Content-Type": "text/calendar; charset=utf-8",
      "Content-Disposition": 'inline; filename="dates.ics"',
    },
  });
}

function feedOf({
  kind,
  listId,
  accountId,
  address,
}: {
  kind: FeedOf["kind"];
  listId: string | null;
  accountId: string | null;
  address: string | null;
}): FeedOf {
  switch (kind) {
    case "list":
      return { kind, listId: listId ?? "" };
    case "account":
      return { kind, accountId: accountId ?? "" };
    case "address":
      return { kind, address: address ?? "" };
    case "house":
      return { kind };
  }
}

async function write(
  db: Queries,
  of: FeedOf,
  caller: Caller | undefined,
  list: string | null,
): Promise<string> {
  const house = await loadHouse(db);
  const rows = await listFeedDates(db, of, caller);
  return writeCalendar(
    rows.map((row) => ({
      date: calendarDateOf(row),
      changedAt: row.changedAt,
      isCancelled: row.cancelledAt !== null,
    })),
    list ?? house?.name ?? "",
  );
}

function namesTag(tags: string | undefined, tag: string): boolean {
  return tags?.split(",").some((one) => one.trim().replace(/^W\//, "") === tag) === true;
}
