import type { putDateTime } from "@amigo/contract/dates";
import { occurrences, plannedDays, type SingleChange } from "@amigo/core/calendar/repeat";
import { endsTooEarly, onDay, type When } from "@amigo/core/calendar/when";
import { whenInWords } from "@amigo/core/calendar/whenInWords";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { notify } from "../events/events";
import { notFound, orRefuse, refuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { listIdsOf, lockDate, storeDate, type DateRow } from "../calendar/dateQueries";
import { findDate } from "./dateQueries";
import { mayChange } from "./mayChange";
import { noteDate } from "../calendar/noteDate";
import { spanOf } from "../calendar/timesOf";

/** Moves one time of a repeated date, drops it, or lets it be as it was planned. Everybody who was invited is told right after. */
export async function changeTime(
  { db }: Context,
  { params, body, caller }: Request<typeof putDateTime>,
): Promise<Answer<typeof putDateTime>> {
  if ((await findDate(db, params.id, caller)) === undefined) throw notFound("date");
  const zone = (await loadHouse(db))?.timeZone ?? "UTC";
  await db.transaction(async (tx) => {
    const before = await lockDate(tx, params.id);
    if (before === undefined) throw notFound("date");
    refuse(await mayChange(tx, caller, before));
    if (before.sequence !== body.sequence || before.cancelledAt !== null)
      throw new Refusal(409, "date/changed", t("dates.somebodyHasChangedIt"));
    const changes = orRefuse(changesWith(before, params.day, timeIn(body.to, zone)));
    const lists = await listIdsOf(tx, params.id);
    await storeDate(
      tx,
      {
        ...before,
        changes,
        ...spanOf({ ...before, changes }, zone),
        sequence: before.sequence + 1,
        news: ["when"],
      },
      lists,
    );
    await noteDate(
      tx,
      caller,
      "change date",
      lists.map((id) => ({ id })),
      () => sentenceOf(caller.name, before, params.day, timeIn(body.to, zone)),
    );
    await notify(tx, "dates");
  });
  return { id: params.id };
}

type To = When | "dropped" | "planned";

function timeIn(to: Request<typeof putDateTime>["body"]["to"], zone: string): To {
  return typeof to === "string" || to.allDay ? to : { ...to, zone };
}

/** The changes of single times with another one; refused where the date has no such time, or would have none left. */
function changesWith(date: DateRow, day: string, to: To): SingleChange[] | Refused {
  if (date.repeat === null || !plannedDays(date.when, date.repeat).includes(day))
    return refused(404, "not-found", t("dates.noSuchTime"));
  if (typeof to !== "string" && endsTooEarly(to))
    return refused(422, "date/end", t("dates.itEndsBeforeItBegins"), "to");
  const others = date.changes.filter((change) => change.day !== day);
  const changes =
    to === "planned" ? others : [...others, { day, when: to === "dropped" ? null : to }];
  return occurrences({ ...date, changes }).length === 0
    ? refused(422, "date/no-time", t("dates.noTimeLeft"))
    : changes;
}

function sentenceOf(name: string, date: DateRow, day: string, to: To): string {
  const { title } = date;
  const planned = say(whenInWords(onDay(date.when, day)));
  if (to === "dropped") return t("dates.droppedTime", { name, title, when: planned });
  return to === "planned"
    ? t("dates.restoredTime", { name, title, when: planned })
    : t("dates.movedTime", { name, title, when: planned, to: say(whenInWords(to)) });
}
