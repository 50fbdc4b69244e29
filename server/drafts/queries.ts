import { alphabetical } from "../db/alphabetical";
import { randomUUID } from "node:crypto";
import { and, eq, isNull, desc, sql, asc, inArray, lte } from "drizzle-orm";
import type { DraftContent } from "@amigo/contract/drafts";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { delivery } from "../db/schema/deliveries";
import { draft, draftFile } from "../db/schema/drafts";
import { season } from "../db/schema/house";
import { list, privateList } from "../db/schema/lists";
import { post, message } from "../db/schema/posts";
import { changeableBy, visiblePosts } from "../membership/scope";

const MOST_DRAFTS = 200;

/** How much of a mail is read for its thread, in octets, and how many ids of it are named. */
const HEAD = 65_536;

const AT_ONCE = 100;

/** Lists an account's drafts that are not sent, the latest first. */
export function listOpenDrafts(db: Queries, accountId: string) {
  return db
    .select()
    .from(draft)
    .where(and(eq(draft.accountId, accountId), isNull(draft.postId)))
    .orderBy(desc(draft.changedAt))
    .limit(MOST_DRAFTS);
}

/** Stores a draft, and returns it; undefined where it is another's or was sent. */
export async function storeDraft(
  db: Queries,
  id: string,
  accountId: string,
  content: DraftContent,
) {
  const [found] = await db
    .insert(draft)
    .values({ id, accountId, content })
    .onConflictDoUpdate({
      target: draft.id,
      set: { content, changedAt: sql`now()`, fault: "" },
      setWhere: and(eq(draft.accountId, accountId), isNull(draft.postId)),
    })
    .returning();
  return found;
}

/** Removes a draft with its files. */
export async function removeDraft(db: Queries, id: string): Promise<void> {
  await db.delete(draft).where(eq(draft.id, id));
}

/** Stores a file of a draft, and returns it. */
export async function storeFile(db: Queries, id: string, file: File, inline: boolean) {
  const [found] = await db
    .insert(draftFile)
    .values({
      draftId: id,
      name: file.name.replace(/[\u0000-\u001f\u007f"\\/:*?<>|]/g, "_").slice(0, 120) || "file",
      type: /^[\w.+-]+\/[\w.+-]+$/.test(file.type) ? file.type : "application/octet-stream",
      size: file.size,
      content: Buffer.from(await file.arrayBuffer()),
      cid: inline ? `${randomUUID()}@amigo` : "",
    })
    .returning({
      id: draftFile.id,
      name: draftFile.name,
      type: draftFile.type,
      size: draftFile.size,
      cid: draftFile.cid,
    });
  return found;
}

/** Removes one file of a draft. */
export async function removeFileOf(db: Queries, file: string, draftId: string): Promise<void> {
  await db.delete(draftFile).where(and(eq(draftFile.id, file), eq(draftFile.draftId, draftId)));
}

/** Returns a file of one's own draft, or none. */
export function findFile(db: Queries, file: string, id: string, accountId: string) {
  return db
    .select({ type: draftFile.type, content: draftFile.content, name: draftFile.name })
    .from(draftFile)
    .innerJoin(draft, eq(draft.id, draftFile.draftId))
    .where(and(eq(draftFile.id, file), eq(draft.id, id), eq(draft.accountId, accountId)));
}

/** Lists an account's private lists. */
export function listPrivateTargets(db: Queries, accountId: string) {
  return db
    .select({ id: privateList.id, name: privateList.name })
    .from(privateList)
    .where(eq(privateList.accountId, accountId))
    .orderBy(alphabetical(privateList.name));
}

/** Lists which of some lists somebody may change. */
export function listChangeable(db: Queries, ids: readonly string[], caller: Caller) {
  return db
    .select({ id: list.id })
    .from(list)
    .where(and(inArray(list.id, [...ids]), changeableBy(caller)));
}

/** Lists the seasons that are over and to which some lists belong. */
export function listOldSeasons(db: Queries, lists: readonly { list: { id: string } }[]) {
  return db
    .select({ label: season.label })
    .from(season)
    .where(
      sql`${season.id} in (select season_id from list where ${inArray(
        sql`list.id`,
        lists.map(({ list }) => list.id),
      )}) and not ${season.current}`,
    );
}

/** Returns to how many addresses an account has sent at most. */
export function findLargestPost(db: Queries, accountId: string) {
  return db.execute<{ most: number | null }>(
    sql`select max(sent.count)::int as most from (select count(*) as count from ${delivery} join ${post} on ${post.id} = ${delivery.postId} where ${eq(post.accountId, accountId)} group by ${delivery.postId}) as sent`,
  );
}

/** Counts how many addresses get a post by digest, rest, or are stopped. */
export function countGettingOtherwise(db: Queries, pairs: readonly { l: string; a: string }[]) {
  return db.execute<{ digests: number; resting: number; stopped: number }>(sql`
    with each as (
      select own.a as address, bool_or(coalesce(receiving.how_often, list.rules->>'howOften') = 'every message') as at_once, bool_or(coalesce(receiving.how_often, list.rules->>'howOften') in ('daily', 'weekly')) as digest,
        bool_or(trouble.address is not null) as stopped, bool_or(pause.address is not null) as paused
      from json_to_recordset(${JSON.stringify(pairs)}::json) as own(l uuid, a text) join list on list.id = own.l left join receiving on receiving.list_id = own.l and receiving.address = own.a
        left join address_trouble as trouble on trouble.address = own.a and trouble.state = 'stopped' left join pause on pause.address = own.a and pause.until >= current_date
      group by own.a)
    select count(*) filter (where stopped)::int as stopped, count(*) filter (where not stopped and (paused or (not at_once and not digest)))::int as resting, count(*) filter (where not stopped and not paused and not at_once and digest)::int as digests from each`);
}

/** Lists the files of a draft. */
export function listFiles(db: Queries, draftId: string) {
  return db.select().from(draftFile).where(eq(draftFile.draftId, draftId));
}

/** Returns the post that a draft has become, with the draft locked. */
export async function lockDraft(db: Queries, id: string) {
  const [found] = await db
    .select({ postId: draft.postId })
    .from(draft)
    .where(eq(draft.id, id))
    .for("update");
  return found;
}

/** Stores which post a draft has become. */
export async function markSent(db: Queries, postId: string, id: string): Promise<void> {
  await db.update(draft).set({ postId, sendAt: null }).where(eq(draft.id, id));
}

/** Stores which post a draft has become, and that nothing is wrong with it. */
export async function markAccepted(db: Queries, postId: string, id: string): Promise<void> {
  await db.update(draft).set({ postId, sendAt: null, fault: "" }).where(eq(draft.id, id));
}

/** Returns the message that a draft answers, if its writer may see it. */
export async function findAnswered(db: Queries, postId: string, caller: Caller) {
  const [found] = await db
    .select({
      messageId: message.messageId,
      head: sql<Buffer>`substring(${message.raw} from 1 for ${HEAD})`,
    })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .where(and(eq(post.id, postId), visiblePosts(caller)));
  return found;
}

/** Returns an account's own draft that is not sent, or undefined. */
export async function findOwnDraft(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .select()
    .from(draft)
    .where(and(eq(draft.id, id), eq(draft.accountId, accountId), sql`${draft.postId} is null`));
  return found;
}

/** Returns the post that one's own draft has become. */
export async function findSentPost(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .select({ postId: draft.postId })
    .from(draft)
    .where(and(eq(draft.id, id), eq(draft.accountId, accountId)));
  return found;
}

/** Plans a draft to be sent at an instant. */
export async function planDraft(db: Queries, at: Date, id: string): Promise<void> {
  await db.update(draft).set({ sendAt: at, fault: "" }).where(eq(draft.id, id));
}

/** Ends the plan of a draft that is not sent, and returns it. */
export async function unplanDraft(db: Queries, id: string) {
  const [found] = await db
    .update(draft)
    .set({ sendAt: null })
    .where(and(eq(draft.id, id), isNull(draft.postId)))
    .returning();
  return found;
}

/** Lists planned drafts whose time has come, with their writers. */
export function listDueDrafts(db: Queries, now: Date) {
  return db
    .select({
      draft,
      caller: {
        id: account.id,
        name: account.name,
        email: account.email,
        role: account.role,
        siteId: account.siteId,
        language: account.language,
      },
    })
    .from(draft)
    .innerJoin(account, eq(account.id, draft.accountId))
    .where(and(lte(draft.sendAt, now), isNull(draft.postId), accountInForce))
    .orderBy(asc(draft.sendAt))
    .limit(AT_ONCE);
}

/** Stores why a planned draft could not be sent, and returns it. */
export async function markFailed(db: Queries, fault: string, id: string) {
  const [found] = await db
    .update(draft)
    .set({ sendAt: null, fault })
    .where(and(eq(draft.id, id), isNull(draft.postId), sql`${draft.sendAt} is not null`))
    .returning({ id: draft.id });
  return found;
}

export function filesOf(db: Queries, id: string) {
  return db
    .select({
      id: draftFile.id,
      name: draftFile.name,
      type: draftFile.type,
      size: draftFile.size,
      cid: draftFile.cid,
    })
    .from(draftFile)
    .where(eq(draftFile.draftId, id))
    .orderBy(alphabetical(draftFile.name));
}
