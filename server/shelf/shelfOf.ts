import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { loadList } from "../membership/loadList";
import { refused, Refused } from "../refused";
import { t } from "../texts/t";
import { findOwnPrivate } from "./placeQueries";

/** A shelf that somebody looks after: that of a list, or of one of their own private lists. */
export interface Shelf {
  id: string;
  title: string;
  timeZone: string;
  isPrivate: boolean;
  isOpen: boolean;
}

/** Returns a shelf that somebody looks after, by the id of its list. */
export async function findShelf(db: Queries, id: string, caller: Caller): Promise<Shelf | Refused> {
  const own = await findOwnPrivate(db, id, caller.id);
  if (own !== undefined) {
    const timeZone = (await loadHouse(db))?.timeZone ?? "UTC";
    return { id, title: own.name, timeZone, isPrivate: true, isOpen: true };
  }
  const found = await loadList(db, id, caller);
  if (found instanceof Refused) return found;
  const { title, timeZone, closedAt } = found;
  return { id, title, timeZone, isPrivate: false, isOpen: closedAt === null };
}

/** Returns a shelf that somebody looks after and on which something can be put: its list is open. */
export async function openShelf(db: Queries, id: string, caller: Caller): Promise<Shelf | Refused> {
  const found = await findShelf(db, id, caller);
  if (found instanceof Refused || found.isOpen) return found;
  return refused(409, "shelf/closed", t("shelf.theListIsClosed"), "id");
}
