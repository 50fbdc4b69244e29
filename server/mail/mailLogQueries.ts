import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { mailIn, mailInPart } from "../db/schema/mailLog";
import type { MailPart } from "./incomingMail";

/** Stores a mail that came in, and what it was for each address that it came to. */
export async function storeMailIn(
  db: Queries,
  mail: typeof mailIn.$inferInsert,
  parts: readonly MailPart[],
): Promise<void> {
  await db.insert(mailIn).values(mail);
  if (parts.length > 0)
    await db.insert(mailInPart).values(
      parts.map((part, place) => ({
        ...part,
        reasons: [...part.reasons],
        mailId: mail.id,
        place,
      })),
    );
}

/** Removes the log of mail that came in longer ago than it is kept. Returns how many. */
export async function removeOldMailLog(db: Queries, days: number): Promise<number> {
  const gone = await db
    .delete(mailIn)
    .where(sql`${mailIn.at} < now() - make_interval(days => ${days})`);
  return gone.rowCount ?? 0;
}
