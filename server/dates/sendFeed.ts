import { createHash } from "node:crypto";
import { writeCalendar } from "@amigo/core/calendar/writeCalendar";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import type { FileRequest } from "../http/handler";
import { childrenAt } from "../membership/childrenAt";
import { t } from "../texts/t";
import {
  findFeed,
  findFeedVersion,
  listFeedDates,
  type FeedOf,
  type FeedSight,
} from "./feedQueries";
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
  const sight = { caller, cohorts: await cohortsOf(db, of) };
  const tag = `"${createHash("sha256")
    .update(`${await findFeedVersion(db, of, sight)} ${list ?? ""}`)
    .digest("hex")
    .slice(0, 32)}"`;
  const headers = { ETag: tag, "Cache-Control": "private, no-cache" };
  if (namesTag(http.req.header("If-None-Match"), tag))
    return new Response(null, { status: 304, headers });
  let kept = prepared.get(secret);
  if (kept?.tag !== tag) {
    kept = { tag, text: await write(db, of, sight, list) };
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
  person,
}: {
  kind: FeedOf["kind"];
  listId: string | null;
  accountId: string | null;
  address: string | null;
  person: string | null;
}): FeedOf {
  switch (kind) {
    case "list":
      return { kind, listId: listId ?? "" };
    case "account":
      return { kind, accountId: accountId ?? "" };
    case "address":
      return { kind, address: address ?? "" };
    case "child":
      return { kind, address: address ?? "", person: person ?? "" };
    case "house":
      return { kind };
  }
}

/** The classes of the child whose calendar it is, as long as it is a child of whoever has the address. */
async function cohortsOf(db: Queries, of: FeedOf): Promise<string[] | undefined> {
  if (of.kind !== "child") return undefined;
  const child = (await childrenAt(db, of.address)).find(({ id }) => id === of.person);
  return child?.cohorts.map(({ key }) => key);
}

async function write(
  db: Queries,
  of: FeedOf,
  sight: FeedSight,
  list: string | null,
): Promise<string> {
  const house = await loadHouse(db);
  const rows = await listFeedDates(db, of, sight);
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
