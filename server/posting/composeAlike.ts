import { randomUUID } from "node:crypto";
import { encode as toBase64, wrap as wrapBase64 } from "nodemailer/lib/base64";
import { encode as toQuotedPrintable, wrap as wrapQuotedPrintable } from "nodemailer/lib/qp";
import type { Invitation } from "@amigo/core/calendar/writeInvitation";
import { composeMail, type MailToCompose } from "./composeMail";
import type { Note } from "./queries";

/** What one of many mails that are alike has for itself. */
export interface OneAlike {
  address: string;
  text: string;
  /** The date for its recipient's calendar program; as all of them have one, or none has. */
  calendar?: string | undefined;
}

/** An address that stands in a header just as it is. */
const PLAIN = /^[A-Za-z0-9._%+~-]+@[A-Za-z0-9.-]+$/;
/** The longest address that doesn't have to be folded in the header (RFC 5322, section 2.1.1). */
const FITS = 70;

/**
 * Writes mails that are alike but for their recipient, text and date: the first one as MIME, and the others by putting theirs in its
 * place, which takes a tenth of the time.
 *
 * @param shared what all of them have
 */
export async function composeAlike(
  shared: Omit<MailToCompose, "to" | "text" | "calendar">,
  method: Invitation["method"],
  each: readonly OneAlike[],
): Promise<Note[]> {
  const mold = await moldOf(shared, method, each[0]?.calendar !== undefined);
  const notes: Note[] = [];
  for (const one of each)
    notes.push(
      mold !== undefined && PLAIN.test(one.address) && one.address.length <= FITS
        ? fromMold(mold, shared.domain, one)
        : await composeOne(shared, method, one),
    );
  return notes;
}

async function composeOne(
  shared: Omit<MailToCompose, "to" | "text" | "calendar">,
  method: Invitation["method"],
  { address, text, calendar }: OneAlike,
): Promise<Note> {
  const made = await composeMail({
    ...shared,
    to: [{ name: "", address }],
    text,
    ...(calendar === undefined ? {} : { calendar: { method, content: calendar } }),
  });
  return { ...made, address };
}

/** A mail with gaps: its pieces, and what belongs between each and the next. */
interface Mold {
  pieces: string[];
  gaps: Gap[];
}
type Gap = "id" | "address" | "text" | "calendar" | "attached calendar";

/** Composes a mail with marks for what each has for itself, and cuts it there; undefined where not all marks are found again. */
async function moldOf(
  shared: Omit<MailToCompose, "to" | "text" | "calendar">,
  method: Invitation["method"],
  withCalendar: boolean,
): Promise<Mold | undefined> {
  const mark = randomUUID().replace(/-/g, "");
  const [text, calendar, address] = [`t${mark}`, `c${mark}`, `a${mark}@mark.invalid`];
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
  const pieces: string[] = [];
  const gaps: Gap[] = [];
  let rest = raw.toString("latin1");
  for (;;) {
    const next = [...found.keys()]
      .map((key) => ({ key, at: rest.indexOf(key) }))
      .filter(({ at }) => at >= 0)
      .sort((one, other) => one.at - other.at)[0];
    const gap = found.get(next?.key ?? "");
    if (next === undefined || gap === undefined) break;
    pieces.push(rest.slice(0, next.at));
    gaps.push(gap);
    rest = rest.slice(next.at + next.key.length);
  }
  pieces.push(rest);
  // A mark that the library has written otherwise would go out as it is.
  return gaps.length === (withCalendar ? found.size : 3) ? { pieces, gaps } : undefined;
}

function fromMold({ pieces, gaps }: Mold, domain: string, one: OneAlike): Note {
  const messageId = `<${randomUUID()}@${domain}>`;
  const calendar = one.calendar ?? "";
  const filled: Record<Gap, string> = {
    id: messageId,
    address: one.address,
    text: quotedPrintable(one.text),
    calendar: quotedPrintable(calendar),
    "attached calendar": wrapBase64(toBase64(calendar)),
  };
  const raw = pieces.map((piece, at) => {
    const gap = gaps[at];
    return gap === undefined ? piece : piece + filled[gap];
  });
  return { raw: Buffer.from(raw.join(""), "latin1"), messageId, address: one.address };
}

function quotedPrintable(text: string): string {
  return wrapQuotedPrintable(toQuotedPrintable(text)).replace(/\r?\n/g, "\r\n");
}
