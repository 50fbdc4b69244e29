import { eq, sql, type SQL } from "drizzle-orm";
import { callerMay, type Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { site } from "../db/schema/house";
import { cohort, list, listRole } from "../db/schema/lists";
import { request } from "../db/schema/requests";
import { journal } from "../db/schema/journal";
import { post, postList, digestItem } from "../db/schema/posts";
import { delivery } from "../db/schema/deliveries";
import { listSeen, listSeenIds, listsOf } from "./queries";

/** That whoever has an account finds a list when they type. */
export const foundByStaff = sql`${list.rules}->>'findable' <> 'leads'`;

/** Of some lists, those whose members somebody may see. */
export async function seesMembers(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<ReadonlySet<string>> {
  if (ids.length === 0) return new Set();
  const rows = await listSeen(db, ids, caller);
  return new Set(rows.map(({ id }) => id));
}

/**
 * The copies of posts of which somebody may know, as a condition on `delivery` beside its `post`: all of their own post, else
 * those to lists that they see. A post to lists of two leads shows each their own part.
 */
export function copiesOf(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  return sql`(${post.accountId} = ${caller.id} or ${delivery.listId} in (select ${list.id} from ${list} where ${listsOf(caller)}))`;
}

/** The same for what waits for a digest, as a condition on `digest_item` beside its `post`. */
export function digestsOf(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  return sql`(${post.accountId} = ${caller.id} or ${digestItem.listId} in (select ${list.id} from ${list} where ${listsOf(caller)}))`;
}

/** The lists that somebody may change: of those that they see, the ones that they lead and do not only help with. */
export function changeableBy(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  const leads = sql`exists (select 1 from ${listRole} where ${listRole.listId} = ${list.id} and ${listRole.accountId} = ${caller.id} and ${listRole.role} = 'lead')`;
  return caller.role === "site coordinator" && caller.siteId !== null
    ? sql`(${eq(list.siteId, caller.siteId)} or ${leads})`
    : leads;
}

/**
 * The people whom somebody may see, as a query of their ids; undefined for everybody. For a site coordinator: the students
 * of their site and of its classes, and those students' guardians.
 */
export function peopleOf(caller: Caller, seasonId: number | SQL): SQL | undefined {
  if (caller.role === "coordinator") return undefined;
  const named = sql`(select name from ${site} where id = ${caller.role === "site coordinator" ? caller.siteId : null})`;
  const students = sql`
    select own.subject from fact own where own.season_id = ${seasonId} and own.valid_until is null and own.kind = 'site' and own.value #>> '{}' = ${named}
    union select own.subject from fact own join fact class on class.season_id = own.season_id and class.subject = own.ref and class.kind = 'cohort' and class.valid_until is null
      where own.season_id = ${seasonId} and own.valid_until is null and own.kind = 'enrolment' and class.value->>'site' = ${named}`;
  return sql`(${students} union select tie.subject from fact tie where tie.season_id = ${seasonId} and tie.valid_until is null and tie.kind = 'tie' and tie.ref in (${students}))`;
}

/** Returns the ids of the people whom somebody may see; undefined for everybody. */
export async function seenIds(
  db: Queries,
  caller: Caller,
  seasonId: number,
): Promise<ReadonlySet<string> | undefined> {
  const within = peopleOf(caller, seasonId);
  return within === undefined ? undefined : new Set(await listSeenIds(db, within));
}

/** The entries of the journal that somebody may read: all for a coordinator, else those about lists that they see, and their own. */
export function entriesOf(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  return sql`(${eq(journal.actorId, caller.id)} or ${journal.listId} in (select ${list.id} from ${list} where ${listsOf(caller)}))`;
}

/** The requests on which somebody may decide: all for a coordinator, those about lists of their site for a site coordinator. */
export function decidable(caller: Caller): SQL {
  if (!callerMay(caller, "decide requests")) return sql`false`;
  return caller.role === "coordinator"
    ? sql`true`
    : caller.siteId === null
      ? sql`false`
      : sql`${request.siteId} = ${caller.siteId}`;
}

/** The posts that somebody may see: their own, and those of lists that they may see. */
export function visiblePosts(caller: Caller): SQL {
  return sql`(${post.accountId} = ${caller.id} or exists (select 1 from ${postList} join ${list} on ${list.id} = ${postList.listId} left join ${cohort} on ${cohort.id} = ${list.cohortId} where ${postList.postId} = ${post.id} and ${listsOf(caller)}))`;
}
