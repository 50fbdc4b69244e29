import { sql, and, eq, or, desc, isNull } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { season } from "../db/schema/house";
import { list, listRole } from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { request, type RequestWork } from "../db/schema/requests";
import { decidable } from "../membership/scope";

const SHOWN = 200;

/** Stores what was decided on an open request, and returns it; undefined where it is no longer open. */
export async function closeRequest(
  db: Queries,
  yes: boolean,
  decidedBy: string,
  until: string,
  word: string,
  id: string,
) {
  const [found] = await db
    .update(request)
    .set({
      state: yes ? "granted" : "refused",
      decidedBy,
      decidedAt: sql`now()`,
      until,
      word,
    })
    .where(and(eq(request.id, id), eq(request.state, "open")))
    .returning();
  return found;
}

/** Withdraws one's own open request, and returns its title; none where there is none. */
export function markWithdrawn(db: Queries, decidedBy: string, accountId: string, id: string) {
  return db
    .update(request)
    .set({ state: "withdrawn", decidedBy, decidedAt: sql`now()` })
    .where(and(eq(request.id, id), eq(request.accountId, accountId), eq(request.state, "open")))
    .returning({ title: request.title });
}

/** Lists the requests that somebody has made or may decide on, open ones first. */
export function listShownRequests(db: Queries, caller: Caller) {
  return db
    .select({ request, by: account.name, listId: list.id })
    .from(request)
    .innerJoin(account, eq(account.id, request.accountId))
    .leftJoin(season, eq(season.current, true))
    .leftJoin(list, and(eq(list.key, request.list), eq(list.seasonId, season.id)))
    .where(or(eq(request.accountId, caller.id), decidable(caller)))
    .orderBy(sql`${request.state} <> 'open'`, desc(request.at))
    .limit(SHOWN);
}

/** Returns the open list with a key in a season, and the caller's role on it. */
export async function findListToAsk(
  db: Queries,
  accountId: string,
  key: string,
  seasonId: number | undefined,
) {
  const [found] = await db
    .select({ id: list.id, title: list.title, siteId: list.siteId, role: listRole.role })
    .from(list)
    .leftJoin(listRole, and(eq(listRole.listId, list.id), eq(listRole.accountId, accountId)))
    .where(and(eq(list.key, key), eq(list.seasonId, seasonId ?? 0), isNull(list.closedAt)));
  return found;
}

/** Lists who may decide on requests about lists of a site: the coordinators, and the coordinators of that site. */
export function listDeciders(db: Queries, siteId: number | null) {
  return db
    .select({ name: account.name, email: account.email })
    .from(account)
    .where(
      and(
        accountInForce,
        or(
          eq(account.role, "coordinator"),
          siteId === null
            ? sql`false`
            : and(eq(account.role, "site coordinator"), eq(account.siteId, siteId)),
        ),
      ),
    );
}

/** Stores a request, and returns its id; undefined where the same one is open already. */
export async function storeRequest(
  db: Queries,
  accountId: string,
  body: Pick<typeof request.$inferSelect, "list" | "rule" | "wanted" | "why">,
  title: string,
  siteId: number | null,
  sentence: string,
  work: RequestWork,
) {
  const [found] = await db
    .insert(request)
    .values({
      accountId,
      list: body.list,
      title,
      siteId,
      rule: body.rule,
      wanted: body.wanted,
      sentence,
      why: body.why,
      work,
    })
    .onConflictDoNothing()
    .returning({ id: request.id });
  return found;
}

/** Returns a request that somebody may decide on, or undefined. */
export async function findDecidable(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select()
    .from(request)
    .where(and(eq(request.id, id), decidable(caller)));
  return found;
}

export async function hasTitle(tx: Queries, seasonId: number, key: string): Promise<boolean> {
  const [found] = await tx
    .select({ subject: fact.subject })
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        eq(fact.subject, key),
        eq(fact.kind, "list"),
        eq(fact.ref, "title"),
        sql`${fact.validUntil} is null`,
      ),
    );
  return found !== undefined;
}
