import { randomUUID } from "node:crypto";
import { readEvents, type ReadEvent } from "@amigo/core/calendar/readEvents";
import { findAccountByEmail } from "../accounts/queries";
import {
  findDateByUid,
  listIdsOf,
  markCancelled,
  storeDate,
  type DateRow,
} from "../calendar/dateQueries";
import { eventContent } from "../calendar/eventContent";
import { noteDate } from "../calendar/noteDate";
import { timesOf } from "../calendar/timesOf";
import { whatIsNew } from "../calendar/whatIsNew";
import type { Queries } from "../db/connect";
import type { list } from "../db/schema/lists";
import { notify } from "../events/events";
import { Refused } from "../refused";
import { t } from "../texts/t";
import type { Taken } from "./incomingMail";

type List = typeof list.$inferSelect;

/**
 * Makes a date of a list of an invitation that a calendar program sent to the list (RFC 6047): everybody on it is invited by a mail of
 * their own, and their answers go to whoever invited, too. A later state of it changes that date, and a cancelled one calls it off,
 * where it comes from the same address.
 *
 * @returns whether it was taken; else the mail is one like any other
 */
export async function takeInvitation(tx: Queries, to: List, taken: Taken): Promise<boolean> {
  const { about, house, from, isForged, proof } = taken;
  // What is attached beside it would be lost, so such a mail goes out as it is.
  const isAlone = about.attachments.every(({ type }) =>
    /^(text\/calendar|application\/ics)$/i.test(type),
  );
  if (about.calendar === "" || isForged || proof === "none" || !isAlone) return false;
  const read = readEvents(about.calendar, house.timeZone);
  if (!read.ok || read.left.length > 0 || read.events.length !== 1) return false;
  const [event] = read.events;
  if (event === undefined || event.uid === "" || event.title === "") return false;
  const known = await findDateByUid(tx, event.uid);
  if (known !== undefined && known.organiserAddress !== from.address) return false;
  if (read.method === "CANCEL" || event.isCancelled)
    return known !== undefined && callOff(tx, known, taken);
  if (read.method !== "REQUEST" && read.method !== "PUBLISH") return false;
  return known === undefined ? make(tx, to, event, taken) : change(tx, to, known, event, taken);
}

/** What is kept of an event, by the house's clocks; undefined where it is over, or ends before it begins. */
function contentOf(event: ReadEvent, { house, about }: Taken) {
  const { allDay, from, until } = event.when;
  const times = timesOf(
    { when: { allDay, from, until }, repeat: event.repeat },
    house.timeZone,
    event.changes,
  );
  if (times instanceof Refused || times.lastAt < new Date()) return undefined;
  return {
    ...times,
    ...eventContent({ ...event, text: event.text === "" ? about.text.trim() : event.text }),
    repeat: event.repeat,
    changes: event.changes,
  };
}

async function make(tx: Queries, to: List, event: ReadEvent, taken: Taken): Promise<boolean> {
  const content = contentOf(event, taken);
  if (content === undefined) return false;
  const { from } = taken;
  const account = await findAccountByEmail(tx, from.address);
  await storeDate(
    tx,
    {
      ...content,
      id: randomUUID(),
      uid: event.uid,
      sequence: event.sequence,
      organiserId: to.id,
      organiserAddress: from.address,
      organiserSequence: event.sequence,
      accountId: account?.id ?? null,
      madeBy: from.name || from.address,
      news: [],
    },
    [to.id],
  );
  await tell(tx, to, taken, "make date", () =>
    t("dates.madeDate", { name: nameOf(taken), title: content.title }),
  );
  return true;
}

async function change(
  tx: Queries,
  to: List,
  known: DateRow,
  event: ReadEvent,
  taken: Taken,
): Promise<boolean> {
  const content = contentOf(event, taken);
  if (content === undefined || known.cancelledAt !== null) return false;
  const lists = await listIdsOf(tx, known.id);
  // Ours goes up with every change that is told; what was sent later is known by the writer's own.
  const isOlder = event.sequence < known.organiserSequence;
  const news = isOlder ? [] : whatIsNew(known, content);
  await storeDate(
    tx,
    {
      ...known,
      ...(isOlder ? {} : { ...content, organiserSequence: event.sequence }),
      sequence: news.length === 0 ? known.sequence : Math.max(event.sequence, known.sequence + 1),
      news: news.length === 0 ? known.news : news,
    },
    [...new Set([...lists, to.id])],
  );
  if (news.length > 0 || !lists.includes(to.id))
    await tell(tx, to, taken, "change date", () =>
      t("dates.changedDate", { name: nameOf(taken), title: content.title }),
    );
  return true;
}

async function callOff(tx: Queries, known: DateRow, taken: Taken): Promise<boolean> {
  if (!(await markCancelled(tx, known.id, ""))) return true;
  for (const id of await listIdsOf(tx, known.id))
    await tell(tx, { id }, taken, "cancel date", () =>
      t("dates.cancelledDate", { name: nameOf(taken), title: known.title, reason: "" }),
    );
  return true;
}

function nameOf({ from }: Taken): string {
  return from.name || from.address;
}

async function tell(
  tx: Queries,
  to: { id: string },
  taken: Taken,
  action: "make date" | "change date" | "cancel date",
  sentence: () => string,
): Promise<void> {
  await noteDate(tx, { id: taken.mail.account?.id, name: nameOf(taken) }, action, [to], sentence);
  await notify(tx, "dates");
}
