import { randomUUID } from "node:crypto";
import { encode as toBase64 } from "nodemailer/lib/base64";
import { calendarMold } from "@amigo/core/calendar/calendarMold";
import type { Invitation } from "@amigo/core/calendar/writeInvitation";
import { composeMail, type MailToCompose } from "./composeMail";
import type { Gap, Mold } from "./noteSheet";
import type { Note, NoteSheet } from "./noteQueries";

/** What mails that are alike say, with marks where each recipient's secret and address belong. */
export interface Alike {
  text: string;
  /** The date for their calendar programs; undefined for none. */
  calendar: string | undefined;
  tokenMark: string;
  addressMark: string;
}

/** Whom one of many mails that are alike is for. */
export interface OneAlike {
  address: string;
  token: string;
}

/** Mails that are alike: those that are kept once for all, and those that need one of their own. */
export interface NotesAlike {
  sheet: NoteSheet | undefined;
  notes: Note[];
}

/** An address that stands in a header just as it is. */
const PLAIN = /^[A-Za-z0-9._%+~-]+@[A-Za-z0-9.-]+$/;
/** The longest address that doesn't have to be folded in the header (RFC 5322, section 2.1.1). */
const FITS = 70;

/**
 * Writes mails that differ by their recipient alone: one for all, into which each copy's address and secret are put when it leaves.
 * An address that can't stand in a header as it is gets a mail of its own.
 *
 * @param shared what all of them have
 */
export async function composeAlike(
  shared: Omit<MailToCompose, "to" | "text" | "calendar">,
  method: Invitation["method"],
  alike: Alike,
  each: readonly OneAlike[],
): Promise<NotesAlike> {
  const made = await moldOf(shared, method, alike);
  const fits = ({ address }: OneAlike): boolean =>
    made !== undefined && PLAIN.test(address) && address.length <= FITS;
  const together = each.filter(fits);
  const notes: Note[] = [];
  for (const one of each) if (!fits(one)) notes.push(await composeOne(shared, method, alike, one));
  const sheet =
    made === undefined || together.length === 0 ? undefined : { ...made, each: together };
  return { sheet, notes };
}

async function composeOne(
  shared: Omit<MailToCompose, "to" | "text" | "calendar">,
  method: Invitation["method"],
  { text, calendar, tokenMark, addressMark }: Alike,
  { address, token }: OneAlike,
): Promise<Note> {
  const content =
    calendar === undefined
      ? undefined
      : calendarMold(calendar, [tokenMark, addressMark])([token, address]);
  const made = await composeMail({
    ...shared,
    to: [{ name: "", address }],
    text: text.replaceAll(tokenMark, token),
    ...(content === undefined ? {} : { calendar: { method, content } }),
  });
  return { ...made, address };
}

/** Composes a mail with marks for what each has for itself, and cuts it there; undefined where not all marks are found again. */
async function moldOf(
  shared: Omit<MailToCompose, "to" | "text" | "calendar">,
  method: Invitation["method"],
  alike: Alike,
): Promise<Omit<NoteSheet, "each"> | undefined> {
  const mark = randomUUID().replace(/-/g, "");
  const [text, calendar, address] = [`t${mark}`, `c${mark}`, `a${mark}@mark.invalid`];
  const withCalendar = alike.calendar !== undefined;
  const { raw, messageId } = await composeMail({
    ...shared,
    to: [{ name: "", address }],
    text,
    encoding: "quoted-printable",
    ...(withCalendar ? { calendar: { method, content: calendar } } : {}),
  });
  const found = new Map<string, Gap>([
    [messageId, "id"],
    [address, "address"],
    [text, "text"],
    [calendar, "calendar"],
    [toBase64(calendar), "attached calendar"],
  ]);
  const { pieces, gaps } = cutAt(raw.toString("latin1"), found);
  // A mark that the library has written otherwise would go out as it is.
  if (gaps.length !== (withCalendar ? found.size : 3)) return undefined;
  const mold: Mold = { pieces, gaps, ...alike, calendar: alike.calendar ?? null };
  return { raw, messageId, mold };
}

/** Cuts a mail at marks, each of which stands for a gap. */
function cutAt(raw: string, marks: ReadonlyMap<string, Gap>): Pick<Mold, "pieces" | "gaps"> {
  const pieces: string[] = [];
  const gaps: Gap[] = [];
  let rest = raw;
  for (;;) {
    const next = [...marks.keys()]
      .map((key) => ({ key, at: rest.indexOf(key) }))
      .filter(({ at }) => at >= 0)
      .sort((one, other) => one.at - other.at)[0];
    const gap = marks.get(next?.key ?? "");
    if (next === undefined || gap === undefined) break;
    pieces.push(rest.slice(0, next.at));
    gaps.push(gap);
    rest = rest.slice(next.at + next.key.length);
  }
  pieces.push(rest);
  return { pieces, gaps };
}
