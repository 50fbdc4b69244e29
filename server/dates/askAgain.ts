import type { postDateAskAgain } from "@amigo/contract/dates";
import type { Context } from "../context";
import { notify } from "../events/events";
import { notFound, refuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { t } from "../texts/t";
import { listIdsOf } from "../calendar/dateQueries";
import { findDate } from "./dateQueries";
import { guestsSeen, silentGuests } from "./guestsSeen";
import { storeChaseWanted } from "./guestQueries";
import { mayChange } from "./mayChange";
import { noteDate } from "../calendar/noteDate";

/** Asks those families once more that haven't answered. The mails go out right after. */
export async function askAgain(
  { db }: Context,
  { params, caller }: Request<typeof postDateAskAgain>,
): Promise<Answer<typeof postDateAskAgain>> {
  const found = await findDate(db, params.id, caller);
  if (found === undefined) throw notFound("date");
  refuse(await mayChange(db, caller, found));
  if (found.cancelledAt !== null || found.lastAt < new Date())
    throw new Refusal(409, "date/over", t("dates.isOver"));
  const silent = silentGuests(await guestsSeen(db, caller, found.id));
  const addresses = await db.transaction(async (tx) => {
    const asked = await storeChaseWanted(
      tx,
      found.id,
      silent.map(({ address }) => address),
    );
    const lists = (await listIdsOf(tx, found.id)).map((id) => ({ id }));
    if (asked > 0)
      await noteDate(tx, caller, "ask again", lists, () =>
        t("dates.askedAgain", { name: caller.name, title: found.title, addresses: asked }),
      );
    await notify(tx, "dates");
    return asked;
  });
  return { addresses };
}
