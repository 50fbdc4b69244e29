import type {
  deleteFeed,
  deleteMemberFeed,
  getFeed,
  getMemberDates,
  postFeed,
  postMemberFeed,
} from "@amigo/contract/feeds";
import { makeToken } from "../callers/tokens";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { record } from "../events/record";
import { orRefuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { loadList } from "../membership/loadList";
import { noSuch, refused, Refused } from "../refused";
import { t } from "../texts/t";
import { childrenAt } from "../membership/childrenAt";
import {
  listChildSecrets,
  findFeedSecret,
  listInvitations,
  removeFeed,
  storeFeed,
  type FeedOf,
} from "./feedQueries";
import { coming, shown } from "./showDates";

/** Returns the address of a calendar for programs, where there is one. */
export async function showFeed(
  { db, settings }: Context,
  { query, caller }: Request<typeof getFeed>,
): Promise<Answer<typeof getFeed>> {
  const of = orRefuse(await feedFor(db, caller, query));
  return { url: addressOf(settings.url, await findFeedSecret(db, of)) };
}

/** Makes the address of a calendar; one that it had leads nowhere any more. */
export async function makeFeed(
  { db, settings }: Context,
  { body, caller }: Request<typeof postFeed>,
): Promise<Answer<typeof postFeed>> {
  const of = orRefuse(await feedFor(db, caller, body));
  const secret = makeToken();
  await db.transaction(async (tx) => {
    await storeFeed(tx, of, secret);
    await noteFeed(tx, caller, of, () => t("dates.madeFeed", { name: caller.name, kind: of.kind }));
  });
  return { url: addressOf(settings.url, secret) };
}

/** Makes the address of a calendar lead nowhere. */
export async function endFeed(
  { db }: Context,
  { query, caller }: Request<typeof deleteFeed>,
): Promise<Answer<typeof deleteFeed>> {
  const of = orRefuse(await feedFor(db, caller, query));
  await db.transaction(async (tx) => {
    await removeFeed(tx, of);
    await noteFeed(tx, caller, of, () =>
      t("dates.endedFeed", { name: caller.name, kind: of.kind }),
    );
  });
  return { done: true as const };
}

async function noteFeed(
  tx: Queries,
  caller: Caller,
  of: FeedOf,
  sentence: () => string,
): Promise<void> {
  await record(tx, {
    actorId: caller.id,
    actor: caller.name,
    action: "share dates",
    ...(of.kind === "list" ? { listId: of.listId } : {}),
    sentence,
  });
}

/** What somebody asks for, where they may: the whole house is the coordinators', a list whoever's sees its members. */
async function feedFor(
  db: Queries,
  caller: Caller,
  { kind, list }: { kind: "account" | "list" | "house"; list: string },
): Promise<FeedOf | Refused> {
  if (kind === "account") return { kind, accountId: caller.id };
  if (kind === "house")
    return caller.role === "coordinator"
      ? { kind }
      : refused(403, "feed/house", t("dates.onlyCoordinatorsShareAll"));
  if (list === "") return noSuch("list");
  const found = await loadList(db, list, caller, "seen");
  return found instanceof Refused ? found : { kind, listId: found.id };
}

/** Returns the coming dates of a member, with the address of their calendar. */
export async function showMemberDates(
  { db, settings }: Context,
  { member }: Request<typeof getMemberDates>,
): Promise<Answer<typeof getMemberDates>> {
  const now = new Date();
  const ofChildren = await listChildSecrets(db, member);
  const rows = await listInvitations(db, member, now);
  return {
    url: addressOf(settings.url, await findFeedSecret(db, { kind: "address", address: member })),
    children: (await childrenAt(db, member)).map(({ id, name }) => ({
      id,
      name,
      url: addressOf(settings.url, ofChildren.get(id)),
    })),
    dates: rows.map(({ date, guest }) => ({
      title: date.title,
      place: date.place,
      when: shown(coming(date, now)[0]?.when ?? date.when),
      answer: guest.answer,
      isWaiting: guest.isWaiting,
      path: `/date/${guest.token}`,
    })),
  };
}

/** Makes the address of a member's calendar; one that it had leads nowhere any more. */
export async function makeMemberFeed(
  { db, settings }: Context,
  { member, body }: Request<typeof postMemberFeed>,
): Promise<Answer<typeof postMemberFeed>> {
  const of = orRefuse(await memberFeed(db, member, body.child));
  const secret = makeToken();
  await db.transaction((tx) => storeFeed(tx, of, secret));
  return { url: addressOf(settings.url, secret) };
}

/** Makes the address of a member's calendar lead nowhere. */
export async function endMemberFeed(
  { db }: Context,
  { member, query }: Request<typeof deleteMemberFeed>,
): Promise<Answer<typeof deleteMemberFeed>> {
  await removeFeed(db, orRefuse(await memberFeed(db, member, query.child)));
  return { done: true as const };
}

/** What a member's calendar is of: all that they are invited to, or what one of their children is. */
async function memberFeed(db: Queries, address: string, child: string): Promise<FeedOf | Refused> {
  if (child === "") return { kind: "address", address };
  const isTheirs = (await childrenAt(db, address)).some(({ id }) => id === child);
  return isTheirs ? { kind: "child", address, person: child } : noSuch("child");
}

function addressOf(url: string, secret: string | undefined): string {
  return secret === undefined ? "" : `${url}/calendar/${secret}.ics`;
}
