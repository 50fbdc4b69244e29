import { and, eq, gt, isNull, sql } from "drizzle-orm";
import { hashToken, makePlainToken, makeToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { type LinkPurpose, mailedLink } from "../db/schema/members";

/** Makes the secret of a link that is good for one purpose, once, for some hours. Only its hash is kept. `plain` makes it of small letters and digits, for an address. */
export async function makeLink(
  db: Queries,
  wanted: { purpose: LinkPurpose; address: string; about?: string; hours: number; plain?: boolean },
): Promise<string> {
  const token = wanted.plain === true ? makePlainToken() : makeToken();
  await db.insert(mailedLink).values({
    tokenHash: hashToken(token),
    purpose: wanted.purpose,
    address: wanted.address,
    about: wanted.about ?? "",
    expiresAt: sql`now() + make_interval(secs => ${Math.round(wanted.hours * 3600)})`,
  });
  return token;
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
