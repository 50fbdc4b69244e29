import type { getShelf, getShelfThing, putShelfOpenToMembers } from "@amigo/contract/shelf";
import { day } from "@amigo/language/message";
import type { MayOpen } from "@amigo/core/shelf/mayOpen";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadCurrentSeason, loadHouse } from "../db/houseQueries";
import { notFound, orRefuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { namesBehind } from "../membership/namesBehind";
import { t } from "../texts/t";
import { asAuthor } from "./author";
import { countComments, listComments, listFollowers } from "./commentQueries";
import { shownComment } from "./comments";
import { mayAddressesOpen, openersOf } from "./openers";
import { listPlaces } from "./placeQueries";
import { noteShelf } from "./putThings";
import {
  findThing,
  isOpenToMembers,
  listOpenings,
  listThings,
  listVersions,
  storeOpenToMembers,
  type ThingRow,
} from "./queries";
import { findShelf, openShelf } from "./shelfOf";
import { spellsOn } from "./spells";

/** Returns what a list shares, for those who look after it: who may open each thing, and how many have. */
export async function showShelf(
  { db }: Context,
  { params, caller }: Request<typeof getShelf>,
): Promise<Answer<typeof getShelf>> {
  const found = orRefuse(await findShelf(db, params.id, caller));
  const now = new Date();
  const things = await listThings(db, [found.id]);
  const ids = things.map(({ thing }) => thing.id);
  const places = ids.length === 0 ? [] : await listPlaces(db, ids, caller);
  // Who is on lists of others isn't counted, either.
  const theirs = new Set(places.filter(({ isTheirs }) => isTheirs).map(({ id }) => id));
  const openers = await openersOf(db, things, now, theirs);
  const opened = new Map<string, Set<string>>();
  for (const { thingId, address } of ids.length === 0 ? [] : await listOpenings(db, ids))
    opened.set(thingId, (opened.get(thingId) ?? new Set()).add(address));
  const today = dayIn(found.timeZone, now);
  const comments = await countComments(db, ids);
  const shown = things.map(({ thing, name, size, damagedAt }) => {
    const may = openers.get(thing.id) ?? [];
    return {
      id: thing.id,
      kind: thing.kind,
      title: thing.title,
      folder: thing.folder,
      link: thing.link,
      name: name ?? "",
      size: size ?? 0,
      version: thing.version,
      untilDay: thing.untilDay ?? "",
      membersMay: thing.membersMay,
      isDamaged: damagedAt !== null,
      comments: comments.get(thing.id) ?? 0,
      isOver: thing.untilDay !== null && thing.untilDay < today,
      madeBy: thing.madeBy,
      madeAt: thing.madeAt.toISOString(),
      changes: thing.changes,
      others: places
        .filter((place) => place.thing === thing.id && place.isTheirs && place.id !== found.id)
        .map(({ id, title }) => ({ id, title })),
      mayOpen: may.length,
      opened: may.filter((address) => opened.get(thing.id)?.has(address)).length,
    };
  });
  return { things: shown, isOpenToMembers: await isOpenToMembers(db, found.id) };
}

/** Lets a list's members put things of their own on its shelf, or not. */
export async function openToMembers(
  { db }: Context,
  { params, body, caller }: Request<typeof putShelfOpenToMembers>,
): Promise<Answer<typeof putShelfOpenToMembers>> {
  const found = orRefuse(await openShelf(db, params.id, caller));
  if (found.isPrivate) throw notFound("list");
  const isOpen = body.isOpenToMembers;
  await db.transaction(async (tx) => {
    await storeOpenToMembers(tx, found.id, isOpen);
    const sentence = () => t("shelf.openToMembers", { name: caller.name, isOpen });
    await noteShelf(tx, asAuthor(caller), [found.id], sentence);
  });
  return { done: true as const };
}

/** Returns who may open a thing, who has, and its versions. */
export async function showThing(
  { db }: Context,
  { params, caller }: Request<typeof getShelfThing>,
): Promise<Answer<typeof getShelfThing>> {
  const row = await findThing(db, params.id, caller);
  if (row === undefined) throw notFound("thing");
  const now = new Date();
  const seen = await addressesSeen(db, row, caller);
  const may = await openersSeen(db, row, seen, now);
  const openings = new Map(
    (await listOpenings(db, [row.thing.id])).map((one) => [one.address, one.lastAt.toISOString()]),
  );
  const names = await namesOf(db, may);
  const former = [...openings.keys()].filter(
    (address) => !may.includes(address) && seen.has(address),
  );
  const why = await mayAddressesOpen(db, row, [...may, ...former], now);
  const whyMay = await whyOf(db, row, caller);
  return {
    openers: may
      .map((address) => ({
        address,
        name: names.get(address)?.name ?? "",
        why: whyMay(why.get(address)),
        openedAt: openings.get(address) ?? null,
      }))
      .sort((one, other) => Number(one.openedAt !== null) - Number(other.openedAt !== null)),
    former: former.map((address) => ({
      address,
      openedAt: openings.get(address) ?? "",
      why: whyNot(why.get(address)),
    })),
    versions: (await listVersions(db, row.thing.id)).map(
      ({ number, name, size, hash, by, at }) => ({
        ...{ number, name, size, by },
        checksum: hash ?? "",
        at: at.toISOString(),
      }),
    ),
    comments: (await listComments(db, row.thing.id)).map((one) => shownComment(one, () => true)),
    follows: (await listFollowers(db, row.thing.id)).some(
      ({ address }) => address === caller.email,
    ),
  };
}

/** The addresses of those who may open a thing now and whom somebody may know. */
async function openersSeen(
  db: Queries,
  row: ThingRow,
  seen: ReadonlySet<string>,
  now: Date,
): Promise<string[]> {
  const openers = (await openersOf(db, [row], now)).get(row.thing.id) ?? [];
  return openers.filter((address) => seen.has(address));
}

/** Lists the addresses of those who may open a thing now and haven't, of those whom somebody may know. */
export async function listMissing(db: Queries, row: ThingRow, caller: Caller): Promise<string[]> {
  const seen = await addressesSeen(db, row, caller);
  const opened = new Set((await listOpenings(db, [row.thing.id])).map(({ address }) => address));
  const may = await openersSeen(db, row, seen, new Date());
  return may.filter((address) => !opened.has(address));
}

/** The addresses that are or were on those of a thing's lists whose members somebody may know. */
async function addressesSeen(
  db: Queries,
  { thing }: ThingRow,
  caller: Caller,
): Promise<Set<string>> {
  const places = await listPlaces(db, [thing.id], caller);
  const theirs = places.filter(({ isTheirs }) => isTheirs).map(({ id }) => id);
  const opened = (await listOpenings(db, [thing.id])).map(({ address }) => address);
  const now = await spellsOn(db, theirs);
  const ever = opened.length === 0 ? [] : await spellsOn(db, theirs, opened);
  return new Set([...now, ...ever].map(({ address }) => address));
}

async function namesOf(db: Queries, addresses: readonly string[]) {
  const season = await loadCurrentSeason(db);
  return namesBehind(db, season?.id ?? 0, addresses);
}

/** Tells why somebody may open a thing: by which list, as far as the asker looks after it, and since when. */
async function whyOf(
  db: Queries,
  { thing }: ThingRow,
  caller: Caller,
): Promise<(found: MayOpen | undefined) => string> {
  const places = await listPlaces(db, [thing.id], caller);
  const titles = new Map(
    places.filter(({ isTheirs }) => isTheirs).map(({ id, title }) => [id, title]),
  );
  const timeZone = (await loadHouse(db))?.timeZone ?? "UTC";
  return (found) => {
    if (found?.may !== true) return "";
    const since = day(dayIn(timeZone, found.since));
    const list = titles.get(found.list);
    return list === undefined
      ? t("shelf.onAnotherListSince", { since })
      : t("shelf.onListSince", { list, since });
  };
}

/** Why somebody who once opened a thing may no longer. */
function whyNot(found: MayOpen | undefined): string {
  if (found === undefined || found.may) return "";
  switch (found.because) {
    case "over":
      return t("shelf.itsLastDayIsOver");
    case "closed":
      return t("shelf.theListIsClosed");
    default:
      return t("shelf.leftTheList");
  }
}
