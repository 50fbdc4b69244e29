import { and, asc, eq, gt, isNull, lt } from "drizzle-orm";
import { askNote, welcomeNote } from "@amigo/core/mail/greetings";
import { makePlainToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { greetedAt, greetingOf } from "../membership/greetingOf";
import { sendFamilyNote } from "../posting/sendNote";
import { languagesOf } from "../texts/familyLanguage";
import { inLanguage } from "../texts/inLanguage";
import { type house } from "../db/schema/house";
import { greeting } from "../db/schema/lists";
import { loadHouse } from "../db/houseQueries";
import { listGreeted, markMailed } from "./queries";

const AT_ONCE = 50;
/** After how many days without an answer somebody is asked once more; then it rests. */
const REMIND_DAYS = 5;
/** What was asked longer ago than this is not brought up again. */
const FORGOTTEN_DAYS = 30;

type Greeting = typeof greeting.$inferSelect;
type House = typeof house.$inferSelect;

/** Mails the welcomes and questions that wait, and asks once more whoever has not answered, each once, however many workers there are. Returns how many. */
export async function sendGreetings(
  { db, settings }: Pick<Context, "db" | "settings">,
  now = new Date(),
): Promise<number> {
  const house = await loadHouse(db);
  if (house === undefined) return 0;
  const isUnanswered = and(
    eq(greeting.kind, "ask"),
    isNull(greeting.answer),
    isNull(greeting.remindedAt),
    lt(greeting.mailedAt, daysBefore(now, REMIND_DAYS)),
    gt(greeting.mailedAt, daysBefore(now, FORGOTTEN_DAYS)),
  );
  let sent = 0;
  for (const again of [false, true]) {
    for (let more = true; more;) {
      const done = await db.transaction(async (tx) => {
        const due = await tx
          .select()
          .from(greeting)
          .where(again ? isUnanswered : isNull(greeting.mailedAt))
          .orderBy(asc(greeting.at))
          .limit(AT_ONCE)
          .for("update", { skipLocked: true });
        return {
          taken: due.length,
          mailed: due.length === 0 ? 0 : await mail(tx, due, house, settings.url, again),
        };
      });
      sent += done.mailed;
      more = done.taken === AT_ONCE;
    }
  }
  return sent;
}

function daysBefore(now: Date, days: number): Date {
  return new Date(now.getTime() - days * 86_400_000);
}

async function mail(
  tx: Queries,
  due: readonly Greeting[],
  house: House,
  url: string,
  again: boolean,
): Promise<number> {
  const lists = new Map((await listGreeted(tx, due)).map((row) => [row.id, row]));
  const greeted = new Map<string, Awaited<ReturnType<typeof greetedAt>>>();
  for (const of of lists.values())
    greeted.set(
      of.id,
      await greetedAt(
        tx,
        of,
        due
          .filter(({ listId, kind }) => listId === of.id && kind === "welcome")
          .map(({ address }) => address),
        house.name,
      ),
    );
  const languageAt = await languagesOf(
    tx,
    due.map(({ address }) => address),
  );
  let sent = 0;
  for (const { id, listId, address, kind, by, answer, words } of due) {
    const of = lists.get(listId);
    const token = makePlainToken();
    await markMailed(tx, again, token, kind, id);
    if (of === undefined || of.closedAt !== null || answer !== null) continue;
    const language = languageAt(address);
    const about = await inLanguage(language, () => greetingOf(tx, of, house, url, words ?? ""));
    await sendFamilyNote(
      tx,
      { name: "", address },
      () =>
        kind === "ask"
          ? askNote(about, by, `${url}/yes/${token}`, again)
          : welcomeNote(about, greeted.get(listId)?.get(address) ?? {}),
      {
        language,
        ...(kind === "ask" ? { replyTo: `${of.name}+yes.${token}@${house.listDomain}` } : {}),
      },
    );
    sent++;
  }
  return sent;
}
