import { day } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { Answer, CalendarDate } from "@amigo/core/calendar/calendarDate";
import { occurrences } from "@amigo/core/calendar/repeat";
import { whenInWords } from "@amigo/core/calendar/whenInWords";
import { writeInvitation } from "@amigo/core/calendar/writeInvitation";
import type { Queries } from "../db/connect";
import { queueNote } from "../posting/acceptPost";
import { composeMail } from "../posting/composeMail";
import { t } from "../texts/t";
import type { DateRow } from "./dateQueries";

/** How many times of a repeated date its mail names. */
const NAMED = 6;

/** What a mail about a date is made from. */
export interface MailOfDate {
  date: DateRow;
  list: { name: string; title: string };
  house: { name: string; listDomain: string };
  url: string;
  now: Date;
}

/** Whom a mail is for, and why they get it. */
export interface MailedGuest {
  address: string;
  token: string;
  answer: Answer | null;
  /** They are invited, hear of a change, or aren't invited any more. */
  why: "invited" | "changed" | "withdrawn";
}

/** Returns a date as core knows it. */
export function calendarDateOf({
  uid,
  sequence,
  title,
  text,
  place,
  link,
  when,
  repeat,
  changes,
}: DateRow): CalendarDate {
  return { uid, sequence, title, text, place, link, when, repeat, changes };
}

/**
 * Queues the mail about a date to one guest: readable as it is, and with the date for their calendar program (RFC 6047). What
 * the program answers goes to an address that holds the guest's secret.
 */
export async function mailGuest(
  tx: Queries,
  { date, list, house, url, now }: MailOfDate,
  guest: MailedGuest,
): Promise<void> {
  const about = calendarDateOf(date);
  const method = guest.why === "withdrawn" ? "CANCEL" : "REQUEST";
  const organiser = {
    name: list.title,
    address: `${list.name}+date.${guest.token}@${house.listDomain}`,
  };
  const content = writeInvitation({
    method,
    // A date that is called off is a new state of it. One guest who is taken off may be invited again later: what is newer
    // is then told by its time alone, or their calendar would take the new invitation for an old one (RFC 5546, section 2.1.5).
    date: date.cancelledAt === null ? about : { ...about, sequence: about.sequence + 1 },
    organiser,
    guest: { name: "", address: guest.address },
    answer: guest.answer ?? undefined,
    now,
  });
  const { raw, messageId } = await composeMail({
    from: { name: list.title, address: `${list.name}@${house.listDomain}` },
    to: [{ name: "", address: guest.address }],
    subject: subjectOf(date, guest),
    text: textOf({ date, list, house, url, now }, guest),
    domain: house.listDomain,
    automatic: { inReplyTo: undefined },
    // A person's answer goes to people; only a calendar program's goes to the organiser's address.
    replyTo: `${list.name}+leads@${house.listDomain}`,
    calendar: { method, content },
  });
  await queueNote(tx, raw, messageId, guest.address, "post");
}

function subjectOf(date: DateRow, { why }: MailedGuest): string {
  const when = say(whenInWords(date.when));
  const { title } = date;
  if (why === "withdrawn")
    return date.cancelledAt === null
      ? t("dates.subjectWithdrawn", { title })
      : t("dates.subjectCancelled", { title });
  return why === "changed"
    ? t("dates.subjectChanged", { title, when })
    : t("dates.subjectInvited", { title, when });
}

function textOf({ date, list, house, url }: MailOfDate, guest: MailedGuest): string {
  const times = occurrences(calendarDateOf(date));
  const more = times.length - NAMED;
  const link = `${url}/date/${guest.token}`;
  const paragraphs =
    guest.why === "withdrawn"
      ? [
          date.cancelledAt === null
            ? t("dates.youAreNotInvitedAnyMore", { title: date.title, list: list.title })
            : t("dates.itWasCalledOff", { title: date.title, reason: date.reason }),
        ]
      : [
          guest.why === "changed"
            ? t("dates.somethingHasChanged", { title: date.title, news: newsOf(date) })
            : t("dates.youAreInvited", { list: list.title, house: house.name, title: date.title }),
          [
            ...times.slice(0, NAMED).map(({ when }) => say(whenInWords(when))),
            ...(more > 0 ? [t("dates.andMoreTimes", { more })] : []),
            ...(date.place === "" ? [] : [t("dates.at", { place: date.place })]),
            ...(date.link === "" ? [] : [t("dates.online", { link: date.link })]),
          ].join("\r\n"),
          date.text,
          [
            date.answerUntil === ""
              ? t("dates.doYouCome")
              : t("dates.doYouComeUntil", { day: day(date.answerUntil) }),
            `  ${t("dates.answerYes")}: ${link}?answer=yes`,
            `  ${t("dates.answerMaybe")}: ${link}?answer=maybe`,
            `  ${t("dates.answerNo")}: ${link}?answer=no`,
          ].join("\r\n"),
        ];
  return paragraphs.filter((paragraph) => paragraph !== "").join("\r\n\r\n");
}

const NEWS = {
  title: "dates.newsTitle",
  when: "dates.newsWhen",
  place: "dates.newsPlace",
  link: "dates.newsLink",
  text: "dates.newsText",
} as const;
export type News = keyof typeof NEWS;

function newsOf({ news }: DateRow): string {
  return news.flatMap((name) => (name in NEWS ? [t(NEWS[name as News])] : [])).join(", ");
}
