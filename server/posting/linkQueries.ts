import { sql, and, eq, isNull, gt } from "drizzle-orm";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { type LinkPurpose, mailedLink } from "../db/schema/members";

/** Stores a mailed link by the hash of its token. */
export async function storeLink(
  db: Queries,
  token: string,
  wanted: { purpose: LinkPurpose; address: string; about?: string; hours: number },
): Promise<void> {
  await db.insert(mailedLink).values({
    tokenHash: hashToken(token),
    purpose: wanted.purpose,
    address: wanted.address,
    about: wanted.about ?? "",
    expiresAt: sql`now() + make_interval(secs => ${Math.round(wanted.hours * 3600)})`,
  });
}

/** Counts the questions of the last hour to an address whether a mail is theirs. */
export async function countQuestions(db: Queries, address: string) {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(mailedLink)
    .where(
      and(
        eq(mailedLink.address, address),
        eq(mailedLink.purpose, "own mail"),
        sql`${mailedLink.createdAt} > now() - interval '1 hour'`,
      ),
    );
  return found;
}

/** What a link is about, while it is good; looking at it does not use it up. */
export async function linkBehind(
  db: Queries,
  token: string,
  purpose: LinkPurpose,
): Promise<{ address: string; about: string } | undefined> {
  const [found] = await db
    .select({ address: mailedLink.address, about: mailedLink.about })
    .from(mailedLink)
    .where(
      and(
        eq(mailedLink.tokenHash, hashToken(token)),
        eq(mailedLink.purpose, purpose),
        isNull(mailedLink.usedAt),
        gt(mailedLink.expiresAt, sql`now()`),
      ),
    );
  return found;
}

/** Uses a link up. Of two who do so at once, one gets it. */
export async function takeLink(
  db: Queries,
  token: string,
  purpose: LinkPurpose,
): Promise<{ address: string; about: string } | undefined> {
  const [found] = await db
    .update(mailedLink)
    .set({ usedAt: sql`now()` })
    .where(
      and(
        eq(mailedLink.tokenHash, hashToken(token)),
        eq(mailedLink.purpose, purpose),
        isNull(mailedLink.usedAt),
        gt(mailedLink.expiresAt, sql`now()`),
      ),
    )
    .returning({ address: mailedLink.address, about: mailedLink.about });
  return found;
}
