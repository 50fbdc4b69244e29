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

/** A mold that is ready to be filled. */
export interface OpenMold {
  /** The header with {@link ID_MARK} and {@link ADDRESS_MARK} where a copy's id and address belong; it ends with the empty line. */
  header: string;
  /** Returns the body for one recipient. */
  body: (copy: SheetCopy) => string;
}

/** What no header holds: composed mails have no control characters. */
export const ID_MARK = "\u0001id\u0001";
export const ADDRESS_MARK = "\u0001address\u0001";

/** Prepares a mold for filling: all text in Latin-1, an octet a character. */
export function openMold(mold: Mold): OpenMold {
  const { pieces, gaps, text, tokenMark, addressMark } = mold;
  const calendarOf =
    mold.calendar === null ? undefined : calendarMold(mold.calendar, [tokenMark, addressMark]);
  const whole = pieces.map((piece, at) => {
    const gap = gaps[at];
    return gap === undefined ? piece : `${piece}\u0001${gap}\u0001`;
  });
  const [header = "", rest = ""] = splitOnce(whole.join(""), "\r\n\r\n");
  const inBody = rest.split("\u0001");
  return {
    header: `${header}\r\n\r\n`,
    body: ({ address, token, messageId }) => {
      const calendar = calendarOf?.([token, address]) ?? "";
      const filled: Record<Gap, string> = {
        id: messageId,
        address,
        text: quotedPrintable(text.replaceAll(tokenMark, token)),
        calendar: quotedPrintable(calendar),
        "attached calendar": wrapBase64(toBase64(calendar)),
      };
      // Every second part is a gap.
      return inBody.map((part, at) => (at % 2 === 0 ? part : filled[part as Gap])).join("");
    },
  };
}

/** Puts a copy's id and address where their marks are. */
export function filledHeader(header: string, { messageId, address }: SheetCopy): string {
  return header.replaceAll(ID_MARK, messageId).replaceAll(ADDRESS_MARK, address);
}

function splitOnce(text: string, at: string): string[] {
  const found = text.indexOf(at);
  return found < 0 ? [text] : [text.slice(0, found), text.slice(found + at.length)];
}

function quotedPrintable(text: string): string {
  return wrapQuotedPrintable(toQuotedPrintable(text)).replace(/\r?\n/g, "\r\n");
}
