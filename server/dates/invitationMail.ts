import { makePlainToken } from "../callers/tokens";
import { day } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { Answer, CalendarDate } from "@amigo/core/calendar/calendarDate";
import { occurrences } from "@amigo/core/calendar/repeat";
import { instantOf, type When } from "@amigo/core/calendar/when";
import { whenInWords } from "@amigo/core/calendar/whenInWords";
import { writeInvitation, type Invitation } from "@amigo/core/calendar/writeInvitation";
import { composeAlike, type NotesAlike } from "../posting/composeAlike";
import { newsOf } from "./newsWords";
import type { DateFileRow } from "./fileQueries";
import { t } from "../texts/t";
import type { DateRow } from "../calendar/dateQueries";
import type { Queries } from "../db/connect";
import { languagesOf } from "../texts/familyLanguage";
import { inLanguage } from "../texts/inLanguage";

/** How many times of a repeated date its mail names. */
const NAMED = 6;

/** What a mail about a date is made from. */
export interface MailOfDate {
  date: DateRow;
  /** The list that invites; null where people are invited by themselves alone. */
  list: { name: string; title: string } | null;
  /** The address of whoever made the date; null where they have no account any more. */
  makerAddress: string | null;
  house: { name: string; listDomain: string };
  url: string;
  /** The files that go with it. */
  files: readonly DateFileRow[];
  now: Date;
}

/** Whom a mail is for, and why they get it. */
export interface MailedGuest {
  address: string;
  token: string;
  answer: Answer | null;
  /** Whether they wait for a place. */
  isWaiting: boolean;
  /** Whether they were chosen by themselves, not by a list. */
  isPersonal: boolean;
  why: Why;
  /** The time of a repeated date that it is about, where it is about one of them. */
  time?: When | undefined;
}

/**
 * Why a guest gets a mail: they are invited, hear of a change, aren't invited any more, wait for a place, have got one, are asked for
 * their answer again, are reminded, or hear that the date doesn't move to the time that they proposed.
 */
export type Why =
  | "invited"
  | "changed"
  | "withdrawn"
  | "waiting"
  | "moved up"
  | "asked again"
  | "reminded"
  | "declined";

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
 * Writes the mails about a date to its guests, one each, in the language of each: readable as it is, and with the date for their calendar program (RFC 6047). What
 * the program answers goes to an address that holds the guest's secret.
 */
export async function mailGuests(
  db: Queries,
  about: MailOfDate,
  guests: readonly MailedGuest[],
): Promise<NotesAlike[]> {
  const languageAt = await languagesOf(
    db,
    guests.map(({ address }) => address),
  );
  const alike = new Map<string, { language: string; guests: MailedGuest[] }>();
  for (const guest of guests) {
    const language = languageAt(guest.address);
    const { why, answer, isWaiting, time } = guest;
    const key = JSON.stringify([language, why, answer, isWaiting, time?.from]);
    const same = alike.get(key);
    if (same === undefined) alike.set(key, { language, guests: [guest] });
    else same.guests.push(guest);
  }
  const mails: NotesAlike[] = [];
  for (const {
    language,
    guests: [first, ...others],
  } of alike.values())
    if (first !== undefined)
      mails.push(await inLanguage(language, () => mailAlike(about, [first, ...others], language)));
  return mails;
}

/** Writes the mails to guests who are told the same, in one language. */
async function mailAlike(
  about: MailOfDate,
  guests: readonly [MailedGuest, ...MailedGuest[]],
  language: string,
): Promise<NotesAlike> {
  const [first] = guests;
  const { house, date } = about;
  const sender = senderOf(about);
  const [tokenMark, addressMark] = [makePlainToken(), makePlainToken()];
  // Only the links and the address differ.
  const marked = { ...first, token: tokenMark, address: addressMark };
  const text = textOf(about, marked);
  // A reminder changes nothing in a calendar.
  const calendar = first.why === "reminded" ? undefined : calendarFor(about, marked);
  const shared = {
    from: { name: sender.name, address: `${sender.mailbox}@${house.listDomain}` },
    subject: subjectOf(date, first),
    domain: house.listDomain,
    automatic: { inReplyTo: undefined },
    fields: { "Content-Language": language },
    // A person's answer goes to people; only a calendar program's goes to the organiser's address.
    ...(sender.replyTo === null ? {} : { replyTo: sender.replyTo }),
  };
  return composeAlike(
    shared,
    methodOf(first),
    { text, calendar, tokenMark, addressMark },
    guests.map(({ address, token }) => ({ address, token })),
  );
}

function methodOf({ why }: MailedGuest): Invitation["method"] {
  return why === "withdrawn" ? "CANCEL" : why === "declined" ? "DECLINECOUNTER" : "REQUEST";
}

/** The date for one guest's calendar program. */
function calendarFor(about: MailOfDate, guest: MailedGuest): string {
  const { date, house, now, files, url } = about;
  const sender = senderOf(about);
  const content = calendarDateOf(date);
  return writeInvitation({
    method: methodOf(guest),
    // A date that is called off is a new state of it. One guest who is taken off may be invited again later: what is newer
    // is then told by its time alone, or their calendar would take the new invitation for an old one (RFC 5546, section 2.1.5).
    date: date.cancelledAt === null ? content : { ...content, sequence: content.sequence + 1 },
    organiser: {
      name: sender.name,
      address: `${sender.mailbox}+date.${guest.token}@${house.listDomain}`,
    },
    guest: { name: "", address: guest.address },
    // Somebody who waits doesn't come yet, and their calendar doesn't say so.
    answer: guest.isWaiting ? "maybe" : (guest.answer ?? undefined),
    files: files.map(({ id, name }) => ({ name, link: fileLink(url, guest.token, id) })),
    now,
  });
}

/** From whom an invitation comes: from its list, or from whoever chose the people whom it is for. */
function senderOf({ date, list, house, makerAddress }: MailOfDate) {
  return list === null
    ? { name: date.madeBy, mailbox: "postmaster", replyTo: makerAddress }
    : {
        name: list.title,
        mailbox: list.name,
        replyTo: `${list.name}+leads@${house.listDomain}`,
      };
}

function subjectOf(date: DateRow, { why, time }: MailedGuest): string {
  const { title } = date;
  const when = say(whenInWords(time ?? date.when));
  switch (why) {
    case "withdrawn":
      return date.cancelledAt === null
        ? t("dates.subjectWithdrawn", { title })
        : t("dates.subjectCancelled", { title });
    case "changed":
      return t("dates.subjectChanged", { title, when });
    case "waiting":
      return t("dates.subjectWaiting", { title });
    case "moved up":
      return t("dates.subjectMovedUp", { title, when });
    case "asked again":
      return t("dates.subjectAskedAgain", { title, when });
    case "reminded":
      return t("dates.subjectReminded", { title, when });
    case "declined":
      return t("dates.subjectDeclined", { title, when });
    case "invited":
      return t("dates.subjectInvited", { title, when });
  }
}

/** The first sentence of a mail about a date. */
function opening(about: MailOfDate, { why }: MailedGuest): string {
  const { date, house } = about;
  const { title, reason } = date;
  const list = senderOf(about).name;
  switch (why) {
    case "withdrawn":
      return date.cancelledAt === null
        ? t("dates.youAreNotInvitedAnyMore", { title, list })
        : t("dates.itWasCalledOff", { title, reason });
    case "changed":
      return t("dates.somethingHasChanged", { title, news: newsOf(date) });
    case "waiting":
      return t("dates.youWait", { title });
    case "moved up":
      return t("dates.youHaveAPlace", { title });
    case "asked again":
      return t("dates.youHaventAnswered", { title });
    case "reminded":
      return t("dates.remindedOf", { title });
    case "declined":
      return t("dates.itStaysWhereItIs", { title });
    case "invited":
      return t("dates.youAreInvited", { list, house: house.name, title });
  }
}

function textOf(about: MailOfDate, guest: MailedGuest): string {
  const { date } = about;
  const paragraphs =
    guest.why === "withdrawn"
      ? [opening(about, guest)]
      : [
          opening(about, guest),
          whereAndWhen(about, guest),
          date.text,
          filesFor(about, guest),
          question(about, guest),
        ];
  return paragraphs.filter((paragraph) => paragraph !== "").join("\r\n\r\n");
}

/** When a date is, of a repeated one the next few times, and where. */
function whereAndWhen({ date, now }: MailOfDate, { time }: MailedGuest): string {
  const times =
    time === undefined
      ? occurrences(calendarDateOf(date))
          .map(({ when }) => when)
          .filter((when) => when.allDay || instantOf(when.until, when.zone) > now)
      : [time];
  const more = times.length - NAMED;
  return [
    ...times.slice(0, NAMED).map((when) => say(whenInWords(when))),
    ...(more > 0 ? [t("dates.andMoreTimes", { more })] : []),
    ...(date.place === "" ? [] : [t("dates.at", { place: date.place })]),
    ...(date.link === "" ? [] : [t("dates.online", { link: date.link })]),
  ].join("\r\n");
}

/** The files that go with the date, with the guest's link to each. */
function filesFor({ files, url }: MailOfDate, { token }: MailedGuest): string {
  return files.map(({ id, name }) => `${name}\r\n  ${fileLink(url, token, id)}`).join("\r\n");
}

function fileLink(url: string, token: string, file: string): string {
  return `${url}/date/${token}/files/${file}`;
}

/** The question whether they come, with a link for each answer; what they said, where they have answered. */
function question({ date, url }: MailOfDate, { answer, token, why }: MailedGuest): string {
  const link = `${url}/date/${token}`;
  if (answer !== null && why !== "invited" && why !== "changed")
    return `${t("dates.youSaid", { answer: t(SAID[answer]) })}\r\n  ${t("dates.changeYourAnswer")}: ${link}`;
  return [
    date.answerUntil === ""
      ? t("dates.doYouCome")
      : t("dates.doYouComeUntil", { day: day(date.answerUntil) }),
    `  ${t("dates.answerYes")}: ${link}?answer=yes`,
    `  ${t("dates.answerMaybe")}: ${link}?answer=maybe`,
    `  ${t("dates.answerNo")}: ${link}?answer=no`,
  ].join("\r\n");
}

const SAID = {
  yes: "dates.answerYes",
  maybe: "dates.answerMaybe",
  no: "dates.answerNo",
} as const;
