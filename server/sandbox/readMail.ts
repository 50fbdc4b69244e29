import { canonicalAddress } from "@amigo/core/address/domainName";
import type { ParsedMail } from "mailparser";
import { sortBounce } from "@amigo/core/mail/bounces/sortBounce";
import { failedIn } from "@amigo/core/mail/bounces/forms/deliveryStatus";
import { humanLines } from "@amigo/core/mail/bounces/humanPart";
import type { BounceRead } from "@amigo/core/mail/bounces/form";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";
import { answeredIds } from "@amigo/core/mail/thread";
import type { AggregateReport } from "@amigo/core/mail/reports/report";
import type { MessageToJudge } from "@amigo/core/posting/mailToJudge";
import { tidyLine } from "@amigo/core/text/tidy";
import { parseMail } from "./parseMail";
import { NOTHING_PROVEN, proofOf, type Envelope, type Proven } from "./proofOf";
import { readReport } from "./readReport";
import { senderIn, storable } from "./senderIn";
import { textOfHtml } from "./textOfHtml";
import type { Surroundings } from "./surroundings";

/** What the rules need to know of a message, and its subject. */
export type MessageRead = Omit<MessageToJudge, "postsToday"> & {
  subject: string;
  /** Its text, for finding and sorting it; and the ids of the messages that it answers. */
  text: string;
  answers: string[];
  /** What a calendar program sends along (RFC 6047); empty for nothing. */
  calendar: string;
};

/** Everything that is read of one mail. */
export interface MailRead {
  about: MessageRead;
  /** The first address of its From line; the address is empty where there is none. */
  from: { name: string; address: string };
  proven: Proven;
  /** What it is taken for, for each recipient of a copy to whose return path it came. */
  returned: ReadonlyMap<string, BounceRead & { form: string }>;
  /** What a receiver of our mail reports by itself. */
  report: AggregateReport | undefined;
}

const MARKED = /^\s*yes/i;
/** How much of a text can be searched, and how much of a report is read, in signs. */
const SEARCHED = 100_000;

/** Reads of a mail what the rules ask about, what proves whose it is, and what it says where it came back. */
export async function readMail(
  {
    raw,
    envelope,
    returned,
  }: {
    raw: Uint8Array;
    /** How it came; undefined where nothing is to be proven. */
    envelope?: Envelope | undefined;
    /** Where it is to be sorted as returned mail: its own return path, and for whom the copies were. */
    returned?: { returnPath: string; recipients: readonly string[] } | undefined;
  },
  { resolve }: Surroundings,
): Promise<MailRead> {
  const octets = Buffer.from(raw);
  const split = splitMessage(octets);
  const parsed = await parseMail(octets);
  const from = senderIn(split, parsed);
  const text = textOf(parsed);
  const subject = tidyLine(parsed.subject ?? "").slice(0, 500);
  return {
    from,
    about: {
      text,
      subject,
      answers: answeredIds(split),
      calendar: calendarIn(parsed),
      size: octets.length,
      attachments: parsed.attachments
        .filter(({ related }) => !related)
        .map(({ contentType, size }) => ({ type: storable(contentType), size })),
      looksLikeSpam:
        MARKED.test(fieldValue(split, "x-spam-flag") ?? "") ||
        MARKED.test(fieldValue(split, "x-spam-status") ?? ""),
    },
    report: readReport(parsed),
    proven:
      envelope === undefined
        ? NOTHING_PROVEN
        : await proofOf(octets, split, from.address, envelope, resolve),
    returned: new Map(
      returned?.recipients.map((recipient) => [
        recipient,
        sortBounce({
          ...{ split, returnPath: returned.returnPath, recipient, subject },
          ...{ text: peopleText(parsed), report: reportOf(parsed, text) },
        }),
      ]),
    ),
  };
}

/** Reads a mail that came back by itself, without knowing to whom the copy went, and says for whom it was, as far as it says so. */
export async function readReturned(
  raw: Uint8Array,
): Promise<BounceRead & { form: string; recipient: string }> {
  const octets = Buffer.from(raw);
  const split = splitMessage(octets);
  const parsed = await parseMail(octets);
  const text = peopleText(parsed);
  const report = reportOf(parsed, text);
  const returnPath = (fieldValue(split, "return-path") ?? senderIn(split, parsed).address).replace(
    /^<|>$/g,
    "",
  );
  const subject = tidyLine(parsed.subject ?? "").slice(0, 500);
  const read = sortBounce({ split, returnPath, subject, text, report });
  const failed = /^([^\s,<>]{1,254}@[^\s,<>]{1,254})/.exec(
    fieldValue(split, "x-failed-recipients") ?? "",
  )?.[1];
  const recipient = failedIn(report) ?? failed ?? addressIn(humanLines(text).join("\n")) ?? "";
  return { ...read, recipient: canonicalAddress(recipient) };
}

/** Addresses of whoever answers for a mail system. */
const OF_THE_SYSTEM = /^(postmaster|mailer-daemon|abuse|support|help|info|no-?reply)@/i;

/** The first address that a text for people names, leaving out those of mail systems. */
function addressIn(text: string): string | undefined {
  const named = text.match(/[^\s<>()"':;,@[\]]{1,64}@[^\s<>()"':;,@[\]]{1,255}\.[a-z]{2,24}/gi);
  return named?.find((address) => !OF_THE_SYSTEM.test(address)) ?? named?.[0];
}

/** Its text, or the words of its HTML where it has no text of its own. */
function textOf({ text, html }: ParsedMail): string {
  const plain = text ?? "";
  return storable(
    plain.trim() !== "" || typeof html !== "string"
      ? plain.slice(0, SEARCHED)
      : textOfHtml(html, SEARCHED),
  );
}

/** The text of a returned mail for people. The library adds a report's fields to the text, so there may be nothing else in it; the words then stand in the HTML. */
function peopleText(parsed: ParsedMail): string {
  const text = textOf(parsed);
  return humanLines(text).length > 0 || typeof parsed.html !== "string"
    ? text
    : textOfHtml(parsed.html, SEARCHED);
}

/** Some systems write the fields of a report into plain text (RFC 3464, section 2.3, without its MIME type). */
function isWrittenOut(text: string): boolean {
  return (
    /^Status:[ \t]*[245]\.\d/im.test(text) &&
    /^(?:Final-Recipient|Action|Diagnostic-Code):/im.test(text)
  );
}

/** The report for machines, as a part of its own or written out in the text; empty where there is none. */
function reportOf(parsed: ParsedMail, text: string): string {
  return reportIn(parsed) || (isWrittenOut(text) ? text : "");
}

/** The machine-readable part of a delivery report (RFC 3464, RFC 6533), decoded; empty where there is none. */
function reportIn({ attachments }: ParsedMail): string {
  const found = attachments.find(({ contentType }) =>
    /^message\/(global-)?delivery-status$/i.test(contentType),
  );
  return found === undefined
    ? ""
    : storable(found.content.subarray(0, SEARCHED * 4).toString("utf8")).slice(0, SEARCHED);
}

/** The first part for a calendar program, decoded. */
function calendarIn({ attachments }: ParsedMail): string {
  const found = attachments.find(({ contentType }) => /^text\/calendar$/i.test(contentType));
  return found === undefined
    ? ""
    : storable(found.content.subarray(0, SEARCHED * 2).toString("utf8"));
}
