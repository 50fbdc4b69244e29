import { randomUUID } from "node:crypto";
import type {
  DateContent,
  postDate,
  postDateCancel,
  postDatePreview,
  putDate,
} from "@amigo/contract/dates";
import type { SingleChange } from "@amigo/core/calendar/repeat";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database, Queries } from "../db/connect";
import { inTransaction } from "../db/inTransaction";
import { loadHouse } from "../db/houseQueries";
import { notify } from "../events/events";
import { orRefuse, refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { knownPeople } from "../membership/knownPeople";
import type { LoadedList } from "../membership/loadList";
import { noSuch, refused, Refused } from "../refused";
import { t } from "../texts/t";
import { listIdsOf, listOthers, lockDate, markCancelled, storeDate } from "../calendar/dateQueries";
import { findDate } from "./dateQueries";
import { keepDateFiles } from "./fileQueries";
import { forgetProposals } from "./guestQueries";
import { whatIsNew, type News } from "../calendar/whatIsNew";
import { mayChange } from "./mayChange";
import { noteDate } from "../calendar/noteDate";
import { spanOf, timesOf, type Times } from "../calendar/timesOf";
import { needInvitable, whomToInvite } from "./whomToInvite";

/** Returns to how many addresses an invitation to some lists would go, and what stands in its way. */
export async function previewDate(
  { db }: Context,
  { body, caller }: Request<typeof postDatePreview>,
): Promise<Answer<typeof postDatePreview>> {
  const found = orRefuse(await whomToInvite(db, caller, body));
  return { addresses: found.addresses.length, refused: found.refused };
}

/** Makes a date. Its lists' members are invited right after. */
export async function makeDate(
  { db }: Context,
  { body, caller }: Request<typeof postDate>,
): Promise<Answer<typeof postDate>> {
  return orRefuse(await storeNewDate(db, caller, body));
}

/** What a program or a file says of a date beside what it is about. */
export interface FromProgram {
  /** By what the program knows it, and under which name it has put it here. */
  uid?: string;
  davName?: string;
  changes?: SingleChange[];
  /** The fixture list that it was read from, and what it is known by there. */
  importName?: string;
  importKey?: string;
}

/** Stores a new date, where its lists' rules let somebody invite their members. */
export async function storeNewDate(
  db: Database,
  caller: Caller,
  content: DateContent,
  { uid, davName, changes = [], importName = "", importKey = "" }: FromProgram = {},
): Promise<{ id: string } | Refused> {
  const prepared = await prepare(db, caller, content, changes);
  if (prepared instanceof Refused) return prepared;
  const { lists, house, times } = prepared;
  const id = randomUUID();
  await db.transaction(async (tx) => {
    await storeDate(
      tx,
      {
        id,
        uid: uid ?? `${id}@${house.listDomain}`,
        ...contentOf(content),
        ...times,
        changes,
        organiserId: lists[0]?.id ?? null,
        accountId: caller.id,
        madeBy: caller.name,
        news: [],
        davName: davName ?? null,
        importName,
        importKey,
      },
      lists.map((list) => list.id),
      content,
    );
    await keepDateFiles(tx, id, caller.id, content.files ?? []);
    await noteDate(tx, caller, "make date", lists, () =>
      t("dates.madeDate", { name: caller.name, title: content.title }),
    );
    await notify(tx, "dates");
  });
  return { id };
}

/** Changes a date. Where it matters to those who were invited, they are told right after. */
export async function changeDate(
  { db }: Context,
  { params, body, caller }: Request<typeof putDate>,
): Promise<Answer<typeof putDate>> {
  return orRefuse(await storeChangedDate(db, caller, params.id, body));
}

/**
 * Stores a date that was changed.
 *
 * @param changes of single times, where whoever changes it says so; else they stay as long as the times do
 */
export async function storeChangedDate(
  db: Database,
  caller: Caller,
  id: string,
  content: DateContent & { sequence: number },
  changes?: SingleChange[],
): Promise<{ id: string } | Refused> {
  const found = await findDate(db, id, caller);
  if (found === undefined) return noSuch("date");
  // Whom else its maker chose, nobody else sees or changes.
  const isMaker = found.accountId === caller.id;
  const others = isMaker
    ? {
        people: await stillKnown(db, caller, id, content.people),
        privateLists: content.privateLists,
      }
    : { people: [], privateLists: [] };
  const prepared = await prepare(db, caller, { ...content, ...others }, changes ?? []);
  if (prepared instanceof Refused) return prepared;
  const { lists, times, zone } = prepared;
  return inTransaction(db, async (tx): Promise<{ id: string } | Refused> => {
    const before = await lockDate(tx, id);
    if (before === undefined) return noSuch("date");
    const mayNot = await mayChange(tx, caller, before);
    if (mayNot !== undefined) return mayNot;
    if (before.sequence !== content.sequence || before.cancelledAt !== null)
      return refused(409, "date/changed", t("dates.somebodyHasChangedIt"));
    const news: News[] = whatIsNew(before, {
      ...contentOf(content),
      ...times,
      changes: changes ?? before.changes,
    });
    const { files } = content;
    if (files !== undefined && (await keepDateFiles(tx, id, caller.id, files))) news.push("files");
    // What was planned for single days belongs to the times that it had.
    const kept = changes ?? (news.includes("when") ? [] : before.changes);
    await storeDate(
      tx,
      {
        ...before,
        ...contentOf(content),
        ...times,
        ...spanOf({ ...times, repeat: content.repeat, changes: kept }, zone),
        changes: kept,
        sequence: before.sequence + (news.length > 0 ? 1 : 0),
        news: news.length > 0 ? news : before.news,
      },
      lists.map((list) => list.id),
      isMaker ? others : undefined,
    );
    if (news.includes("when")) await forgetProposals(tx, id);
    await noteDate(tx, caller, "change date", lists, () =>
      t("dates.changedDate", { name: caller.name, title: content.title }),
    );
    await notify(tx, "dates");
    return { id };
  });
}

/** Those of the people wanted who are new, or still known: who has left since they were invited stands in no date's way. */
async function stillKnown(
  db: Queries,
  caller: Caller,
  date: string,
  people: readonly string[],
): Promise<string[]> {
  const stored = new Set((await listOthers(db, date)).people);
  if (!people.some((id) => stored.has(id))) return [...people];
  const known = await knownPeople(db, caller);
  return people.filter((id) => !stored.has(id) || known.people.has(id));
}

/** Calls a date off. Everybody who was invited is told right after. */
export async function cancelDate(
  { db }: Context,
  { params, body, caller }: Request<typeof postDateCancel>,
): Promise<Answer<typeof postDateCancel>> {
  refuse(await callOff(db, caller, params.id, body.reason));
  return { done: true as const };
}

/** Calls a date off, with a reason for those who were invited. */
export async function callOff(
  db: Database,
  caller: Caller,
  id: string,
  reason: string,
): Promise<Refused | undefined> {
  const found = await findDate(db, id, caller);
  if (found === undefined) return noSuch("date");
  const mayNot = await mayChange(db, caller, found);
  if (mayNot !== undefined) return mayNot;
  return inTransaction(db, async (tx): Promise<Refused | undefined> => {
    if (!(await markCancelled(tx, id, reason)))
      return refused(409, "date/cancelled", t("dates.itWasCalledOffAlready"));
    const lists = (await listIdsOf(tx, id)).map((list) => ({ id: list }));
    await noteDate(tx, caller, "cancel date", lists, () =>
      t("dates.cancelledDate", { name: caller.name, title: found.title, reason }),
    );
    await notify(tx, "dates");
    return undefined;
  });
}

type House = NonNullable<Awaited<ReturnType<typeof loadHouse>>>;

/** The lists that somebody invites with a date, the first of which is its organiser, and when the date is. */
async function prepare(
  db: Queries,
  caller: Caller,
  content: DateContent,
  changes: readonly SingleChange[],
): Promise<{ lists: LoadedList[]; house: House; times: Times; zone: string } | Refused> {
  const found = await needInvitable(db, caller, content);
  if (found instanceof Refused) return found;
  const house = await loadHouse(db);
  if (house === undefined) return noSuch("school");
  const times = timesOf(content, house.timeZone, changes);
  if (times instanceof Refused) return times;
  return { lists: found.lists, house, times, zone: house.timeZone };
}

function contentOf(content: DateContent) {
  const { title, text, place, link, repeat, answerUntil, places } = content;
  const reminders = [...new Set(content.reminders)].sort((a, b) => b - a);
  return { title, text, place, link, repeat, answerUntil, places, reminders };
}
