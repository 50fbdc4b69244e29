import { asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { askNote, welcomeNote } from "@amigo/core/mail/greetings";
import { hashToken, makePlainToken } from "../callers/tokens";
import type { Context } from "../context";
import { greeting, house, list } from "../db/schema";
import { sendNote } from "../posting/sendNote";

const AT_ONCE = 50;

/** Mails the welcomes and questions that wait, each once, however many workers there are. Answers how many. */
export async function sendGreetings({ db, settings }: Pick<Context, "db" | "settings">): Promise<number> {
  const [own] = await db.select().from(house);
  if (own === undefined) return 0;
  let sent = 0;
  for (let more = true; more;) {
    more = await db.transaction(async (tx) => {
      const due = await tx.select().from(greeting).where(isNull(greeting.mailedAt)).orderBy(asc(greeting.at)).limit(AT_ONCE).for("update", { skipLocked: true });
      if (due.length === 0) return false;
      const lists = new Map((await tx.select().from(list).where(inArray(list.id, [...new Set(due.map(({ listId }) => listId))]))).map((row) => [row.id, row]));
      for (const { id, listId, address, kind, by, answer } of due) {
        const of = lists.get(listId);
        const token = makePlainToken();
        await tx.update(greeting).set({ mailedAt: sql`now()`, ...(kind === "ask" ? { tokenHash: hashToken(token) } : {}) }).where(eq(greeting.id, id));
        if (of === undefined || of.closedAt !== null || answer !== null) continue;
        const about = { house: own.name, title: of.title, address: `${of.name}@${own.listDomain}`, description: of.description, welcome: of.rules.welcome };
        const note = kind === "ask" ? askNote(about, by, `${settings.url}/yes/${token}`) : welcomeNote(about);
        await sendNote(tx, { name: "", address }, note, kind === "ask" ? { replyTo: `${of.name}+yes.${token}@${own.listDomain}` } : {});
        sent++;
      }
      return due.length === AT_ONCE;
    });
  }
  return sent;
}
