import type { postDateRestore } from "@amigo/contract/dates";
import { listIdsOf, lockDate, markRestored } from "../calendar/dateQueries";
import { noteDate } from "../calendar/noteDate";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { inTransaction } from "../db/inTransaction";
import { notify } from "../events/events";
import { refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { noSuch, refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { findDate } from "./dateQueries";
import { mayChange } from "./mayChange";

/** Brings a date back that was called off. Everybody whom it is for is invited again, right after. */
export async function restoreDate(
  { db }: Context,
  { params, caller }: Request<typeof postDateRestore>,
): Promise<Answer<typeof postDateRestore>> {
  refuse(await bringBack(db, caller, params.id));
  return { done: true as const };
}

/**
 * Brings a date back that was called off, as long as it isn't over.
 *
 * @param davName under which name a calendar program has it; undefined where it isn't one that brings it back
 */
export async function bringBack(
  db: Database,
  caller: Caller,
  id: string,
  davName?: string,
): Promise<Refused | undefined> {
  const found = await findDate(db, id, caller);
  if (found === undefined) return noSuch("date");
  const mayNot = await mayChange(db, caller, found);
  if (mayNot !== undefined) return mayNot;
  return inTransaction(db, async (tx): Promise<Refused | undefined> => {
    const date = await lockDate(tx, id);
    if (date === undefined) return noSuch("date");
    if (date.lastAt < new Date()) return refused(409, "date/over", t("dates.isOver"));
    if (date.cancelledAt === null)
      return refused(409, "date/not-cancelled", t("dates.itTakesPlace"));
    await markRestored(tx, id, davName);
    const lists = (await listIdsOf(tx, id)).map((list) => ({ id: list }));
    const sentence = () => t("dates.restoredDate", { name: caller.name, title: date.title });
    await noteDate(tx, caller, "change date", lists, sentence);
    await notify(tx, "dates");
    return undefined;
  });
}
