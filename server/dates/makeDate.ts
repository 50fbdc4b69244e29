import { randomUUID } from "node:crypto";
import type {
  DateContent,
  postDate,
  postDateCancel,
  postDatePreview,
  putDate,
} from "@amigo/contract/dates";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { notFound, orRefuse, refuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import type { LoadedList } from "../membership/loadList";
import { noSuch, Refused } from "../refused";
import { t } from "../texts/t";
import {
  findDate,
  listIdsOf,
  lockDate,
  markCancelled,
  storeDate,
  type DateRow,
} from "./dateQueries";
import { forgetProposals } from "./guestQueries";
import type { News } from "./invitationMail";
import { mayChange } from "./mayChange";
import { noteDate } from "./noteDate";
import { timesOf, type Times } from "./timesOf";
import { needInvitable, whomToInvite } from "./whomToInvite";

/** Returns to how many addresses an invitation to some lists would go, and what stands in its way. */
export async function previewDate(
  { db }: Context,
  { body, caller }: Request<typeof postDatePreview>,
): Promise<Answer<typeof postDatePreview>> {
  const found = orRefuse(await whomToInvite(db, caller, body.lists));
  return { addresses: found.addresses.length, refused: found.refused };
}

/** Makes a date. Its lists' members are invited right after. */
export async function makeDate(
  { db }: Context,
  { body, caller }: Request<typeof postDate>,
): Promise<Answer<typeof postDate>> {
  const { lists, organiser, times } = orRefuse(await prepare(db, caller, body));
  const id = randomUUID();
  await db.transaction(async (tx) => {
    await storeDate(
      tx,
      {
        id,
        uid: `${id}@${organiser.listDomain}`,
        ...contentOf(body),
        ...times,
        changes: [],
        organiserId: organiser.id,
        accountId: caller.id,
        madeBy: caller.name,
        news: [],
      },
      lists.map((list) => list.id),
    );
    await noteDate(
      tx,
      caller,
      "make date",
      lists,
      t("dates.madeDate", { name: caller.name, title: body.title }),
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
  const found = await findDate(db, params.id, caller);
  if (found === undefined) throw notFound("date");
  const { lists, times } = orRefuse(await prepare(db, caller, body));
  await db.transaction(async (tx) => {
    const before = await lockDate(tx, params.id);
    if (before === undefined) throw notFound("date");
    refuse(await mayChange(tx, caller, before));
    if (before.sequence !== body.sequence || before.cancelledAt !== null)
      throw new Refusal(409, "date/changed", t("dates.somebodyHasChangedIt"));
    const news = whatIsNew(before, { ...contentOf(body), ...times });
    await storeDate(
      tx,
      {
        ...before,
        ...contentOf(body),
        ...times,
        // What was planned for single days belongs to the times that it had.
        changes: news.includes("when") ? [] : before.changes,
        sequence: before.sequence + (news.length > 0 ? 1 : 0),
        news: news.length > 0 ? news : before.news,
      },
      lists.map((list) => list.id),
    );
    if (news.includes("when")) await forgetProposals(tx, params.id);
    await noteDate(
      tx,
      caller,
      "change date",
      lists,
      t("dates.changedDate", { name: caller.name, title: body.title }),
    );
    await notify(tx, "dates");
  });
  return { id: params.id };
}

/** Calls a date off. Everybody who was invited is told right after. */
export async function cancelDate(
  { db }: Context,
  { params, body, caller }: Request<typeof postDateCancel>,
): Promise<Answer<typeof postDateCancel>> {
  const found = await findDate(db, params.id, caller);
  if (found === undefined) throw notFound("date");
  refuse(await mayChange(db, caller, found));
  await db.transaction(async (tx) => {
    if (!(await markCancelled(tx, params.id, body.reason)))
      throw new Refusal(409, "date/cancelled", t("dates.itWasCalledOffAlready"));
    const lists = (await listIdsOf(tx, params.id)).map((id) => ({ id }));
    await noteDate(
      tx,
      caller,
      "cancel date",
      lists,
      t("dates.cancelledDate", { name: caller.name, title: found.title, reason: body.reason }),
    );
    await notify(tx, "dates");
  });
  return { done: true as const };
}

/** The lists that somebody invites with a date, the first of which is its organiser, and when the date is. */
async function prepare(
  db: Queries,
  caller: Caller,
  content: DateContent,
): Promise<{ lists: LoadedList[]; organiser: LoadedList; times: Times } | Refused> {
  const found = await needInvitable(db, caller, content.lists);
  if (found instanceof Refused) return found;
  const [organiser] = found.lists;
  if (organiser === undefined) return noSuch("list");
  const times = timesOf(content, organiser.timeZone);
  return times instanceof Refused ? times : { lists: found.lists, organiser, times };
}

function contentOf(content: DateContent) {
  const { title, text, place, link, repeat, answerUntil, places } = content;
  const reminders = [...new Set(content.reminders)].sort((a, b) => b - a);
  return { title, text, place, link, repeat, answerUntil, places, reminders };
}

/** Which parts of a date have changed that matter to those who were invited. */
function whatIsNew(before: DateRow, after: Pick<DateRow, News> & Pick<DateRow, "repeat">): News[] {
  const same = (one: unknown, other: unknown): boolean => sorted(one) === sorted(other);
  return [
    ...(same(before.when, after.when) && same(before.repeat, after.repeat)
      ? []
      : ["when" as const]),
    ...(["title", "place", "link", "text"] as const).filter((part) => before[part] !== after[part]),
  ];
}

/** A value as text, whatever order its parts come in. */
function sorted(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    typeof part === "object" && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([one], [other]) => (one < other ? -1 : 1)))
      : part,
  );
}
