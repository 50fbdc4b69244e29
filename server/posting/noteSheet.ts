import { encode as toBase64, wrap as wrapBase64 } from "nodemailer/lib/base64";
import { encode as toQuotedPrintable, wrap as wrapQuotedPrintable } from "nodemailer/lib/qp";
import { calendarMold } from "@amigo/core/calendar/calendarMold";

/** What belongs between two pieces of a mail that is kept once for many recipients. */
export type Gap = "id" | "address" | "text" | "calendar" | "attached calendar";

/**
 * A mail to many that differs only by the recipient's address and secret, as it is kept: once for all, in pieces with gaps. Text and
 * calendar hold marks where the secret and the address belong.
 */
export interface Mold {
  pieces: string[];
  gaps: Gap[];
  text: string;
  calendar: string | null;
  tokenMark: string;
  addressMark: string;
}

/** Whom one copy is for: their address, the secret in their links, and what names the mail (RFC 5322, section 3.6.4). */
export interface SheetCopy {
  address: string;
  token: string;
  messageId: string;
}

/** Prepares a mold for filling: returns a function that gives the whole mail for one recipient, as octets in Latin-1. */
export function moldFiller(mold: Mold): (copy: SheetCopy) => Buffer {
  const { pieces, gaps, text, tokenMark, addressMark } = mold;
  const calendarOf =
    mold.calendar === null ? undefined : calendarMold(mold.calendar, [tokenMark, addressMark]);
  return ({ address, token, messageId }) => {
    const calendar = calendarOf?.([token, address]) ?? "";
    const filled: Record<Gap, string> = {
      id: messageId,
      address,
      text: quotedPrintable(text.replaceAll(tokenMark, token)),
      calendar: quotedPrintable(calendar),
      "attached calendar": wrapBase64(toBase64(calendar)),
    };
    const raw = pieces.map((piece, at) => {
      const gap = gaps[at];
      return gap === undefined ? piece : piece + filled[gap];
    });
    return Buffer.from(raw.join(""), "latin1");
  };
}

function quotedPrintable(text: string): string {
  return wrapQuotedPrintable(toQuotedPrintable(text)).replace(/\r?\n/g, "\r\n");
}
