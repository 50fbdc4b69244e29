import { alphabetical } from "../db/alphabetical";
import { and, eq, isNull, or } from "drizzle-orm";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { mayOpen } from "@amigo/core/shelf/mayOpen";
import type { Queries } from "../db/connect";
import { shelfPlace, shelfThing } from "../db/schema/shelf";

/** Returns what is on a list's or private list's shelf for whoever comes onto it now, each with its title and where it is opened. */
export async function onShelf(
  db: Queries,
  listId: string,
  timeZone: string,
  url: string,
): Promise<{ id: string; title: string; link: string }[]> {
  const rows = await db
    .select({ id: shelfThing.id, title: shelfThing.title, untilDay: shelfThing.untilDay })
    .from(shelfThing)
    .innerJoin(shelfPlace, eq(shelfPlace.thingId, shelfThing.id))
    .where(
      and(
        or(eq(shelfPlace.listId, listId), eq(shelfPlace.privateListId, listId)),
        isNull(shelfThing.takenOffAt),
      ),
    )
    .orderBy(alphabetical(shelfThing.folder), alphabetical(shelfThing.title));
  const now = new Date();
  const fresh = [{ list: listId, from: now, until: null }];
  return rows
    .filter(({ untilDay }) => {
      const thing = { lists: [listId], untilDay: untilDay ?? "", isTakenOff: false };
      return mayOpen(thing, fresh, new Set([listId]), dayIn(timeZone, now), now).may;
    })
    .map(({ id, title }) => ({ id, title, link: `${url}/member/shelf/${id}` }));
}
