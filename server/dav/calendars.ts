import { DateContent } from "@amigo/contract/dates";
import { readEvents, type ReadEvent } from "@amigo/core/calendar/readEvents";
import { writeCalendar } from "@amigo/core/calendar/writeCalendar";
import { callerMay, type Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { isTaken } from "../db/isTaken";
import { findDateByUid, listIdsOf, listOthers, type DateRow } from "../calendar/dateQueries";
import { eventContent } from "../calendar/eventContent";
import { calendarDateOf } from "../dates/invitationMail";
import { callOff, storeChangedDate, storeNewDate, type FromProgram } from "../dates/makeDate";
import { bringBack } from "../dates/restoreDate";
import { whomToInvite } from "../dates/whomToInvite";
import { Refused, refused } from "../refused";
import { t } from "../texts/t";
import type { Collection, Item } from "./collection";
import { listCalendarDates, listCalendarLists } from "./queries";

/** An item of a calendar, with the date that it is. */
interface DateItem extends Item {
  row: DateRow;
}

/** Returns the calendars of an account: all dates that it sees, and one for each list (RFC 4791). */
export async function calendarsOf(context: Context, caller: Caller): Promise<Collection[]> {
  const lists = await listCalendarLists(context.db, caller);
  return [
    {
      kind: "calendar",
      id: "all",
      name: t("dav.allDates"),
      description: t("dav.allDatesOf"),
      mayWrite: () => Promise.resolve(false),
      items: () => itemsOf(context, caller, undefined),
    },
    ...lists.map(({ id, title }): Collection => ({
      kind: "calendar",
      id,
      name: title,
      description: t("dav.calendarOf", { title }),
      mayWrite: () => mayInvite(context, caller, id),
      items: () => itemsOf(context, caller, id),
      store: (name, text, before) =>
        storeEvent(context, caller, id, name, text, before as DateItem | undefined),
      remove: (item) => callOff(context.db, caller, (item as DateItem).row.id, ""),
    })),
  ];
}

/** Whether somebody may make dates of a list: its posting rules decide, as they do in Amigo. */
async function mayInvite({ db }: Context, caller: Caller, list: string): Promise<boolean> {
  if (!callerMay(caller, "make dates")) return false;
  const found = await whomToInvite(db, caller, {
    lists: [list],
    people: [],
    privateLists: [],
  });
  return !(found instanceof Refused) && found.refused.length === 0;
}

async function itemsOf(
  { db }: Context,
  caller: Caller,
  list: string | undefined,
): Promise<DateItem[]> {
  const rows = await listCalendarDates(db, caller, list);
  return rows.map(({ calendar_date: row }): DateItem => {
    const date = calendarDateOf(row);
    return {
      name: row.davName ?? `${row.id}.ics`,
      version: `${row.sequence}-${row.changedAt.getTime()}`,
      text: () => writeCalendar([{ date, changedAt: row.changedAt, isCancelled: false }]),
      date,
      row,
    };
  });
}

/** Makes a date of what a calendar program puts into a list's calendar, or changes one: by the same rules as in Amigo. */
async function storeEvent(
  context: Context,
  caller: Caller,
  list: string,
  name: string,
  text: string,
  before: DateItem | undefined,
): Promise<Refused | undefined> {
  const { db } = context;
  const house = await loadHouse(db);
  const event = eventIn(text, house?.timeZone ?? "UTC");
  if (event instanceof Refused) return event;
  if (!callerMay(caller, "make dates")) return refused(403, "dav/read-only", t("dav.isReadOnly"));
  const others = before === undefined ? undefined : await listOthers(db, before.row.id);
  const content = contentOf(
    event,
    before === undefined ? [list] : await listIdsOf(db, before.row.id),
    before?.row,
    others,
  );
  if (content instanceof Refused) return content;
  if (before === undefined) {
    const known = await findDateByUid(db, event.uid);
    return known === undefined
      ? storeFresh(db, caller, content, { uid: event.uid, davName: name, changes: event.changes })
      : storeAgain(context, caller, list, name, text, known);
  }
  if (event.isCancelled) return callOff(db, caller, before.row.id, "");
  const changed = await storeChangedDate(
    db,
    caller,
    before.row.id,
    { ...content, sequence: before.row.sequence },
    event.changes,
  );
  return changed instanceof Refused ? changed : undefined;
}

/** Makes a new date. Another program may have put one with the same id at this very moment. */
async function storeFresh(
  db: Database,
  caller: Caller,
  content: DateContent,
  from: FromProgram,
): Promise<Refused | undefined> {
  try {
    const made = await storeNewDate(db, caller, content, from);
    return made instanceof Refused ? made : undefined;
  } catch (failure) {
    if (isTaken(failure)) return uidTaken();
    throw failure;
  }
}

/** Brings a date of the list back that was called off, as programs do that undo a deletion; one that stands elsewhere stays there. */
async function storeAgain(
  context: Context,
  caller: Caller,
  list: string,
  name: string,
  text: string,
  known: DateRow,
): Promise<Refused | undefined> {
  const { db } = context;
  if (known.cancelledAt === null || !(await listIdsOf(db, known.id)).includes(list))
    return uidTaken();
  const refusal = await bringBack(db, caller, known.id, name);
  if (refusal !== undefined) return refusal;
  const item = (await itemsOf(context, caller, list)).find(({ row }) => row.id === known.id);
  return item === undefined ? uidTaken() : storeEvent(context, caller, list, name, text, item);
}

function uidTaken(): Refused {
  return refused(409, "dav/no-uid-conflict", t("dav.uidIsTaken"));
}

/** The one date in what was put; refused where it is none, or repeated in another manner than Amigo can. */
function eventIn(text: string, zone: string): ReadEvent | Refused {
  const read = readEvents(text, zone);
  if (!read.ok) return refused(403, "dav/valid-calendar-data", t("dav.cantBeRead"));
  const [title] = read.left;
  if (title !== undefined)
    return refused(403, "dav/valid-calendar-data", t("dav.cantBeKept", { title }));
  const [event, another] = read.events;
  return event === undefined || another !== undefined || event.uid === ""
    ? refused(403, "dav/valid-calendar-object-resource", t("dav.onlyOneDate"))
    : event;
}

/** What Amigo keeps of an event. What no calendar program knows of a date stays as it was. */
function contentOf(
  event: ReadEvent,
  lists: readonly string[],
  before: DateRow | undefined,
  others: Awaited<ReturnType<typeof listOthers>> | undefined,
): DateContent | Refused {
  const { allDay, from, until } = event.when;
  const parsed = DateContent.safeParse({
    ...eventContent(event),
    when: { allDay, from, until },
    repeat: event.repeat,
    lists,
    answerUntil: before?.answerUntil ?? "",
    places: before?.places ?? null,
    reminders: before?.reminders ?? [],
    people: others?.people ?? [],
    privateLists: [...new Set(others?.onLists.map(({ id }) => id) ?? [])],
  });
  return parsed.success
    ? parsed.data
    : refused(
        403,
        "dav/valid-calendar-data",
        event.title.trim() === "" ? t("dav.dateNeedsATitle") : t("dav.cantBeRead"),
      );
}
