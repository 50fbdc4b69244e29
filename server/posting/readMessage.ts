import { simpleParser } from "mailparser";
import type { MessageToJudge } from "@amigo/core/posting/mailToJudge";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";
import { answeredIds } from "@amigo/core/mail/thread";
import { tidyLine } from "@amigo/core/text/tidy";

/** What the rules need to know of a message, and its subject. */
export type MessageRead = Omit<MessageToJudge, "postsToday"> & {
  subject: string;
  /** Its text, for finding it; and the ids of the messages that it answers. */
  text: string;
  answers: string[];
};

const MARKED = /^\s*yes/i;

/** How much of a text can be searched, in signs. */
const SEARCHED = 100_000;

/** A text as the database can keep it for searching. */
function searchable(text: string): string {
  return text.slice(0, SEARCHED).replace(/\u0000/g, " ");
}

/** Reads of a message what the rules ask about: its size, what is attached, whether a filter has marked it. */
export async function readMessage(raw: Buffer): Promise<MessageRead> {
  const split = splitMessage(raw);
  const parsed = await simpleParser(raw, {
    skipTextToHtml: true,
    skipImageLinks: true,
    skipHtmlToText: true,
  });
  return {
    text: searchable(
      parsed.text ?? (typeof parsed.html === "string" ? parsed.html.replace(/<[^>]*>/g, " ") : ""),
    ),
    answers: answeredIds(split),
    subject: tidyLine(parsed.subject ?? "").slice(0, 500),
    size: raw.length,
    attachments: parsed.attachments
      .filter(({ related }) => !related)
      .map(({ contentType, size }) => ({ type: contentType, size })),
    looksLikeSpam:
      MARKED.test(fieldValue(split, "x-spam-flag") ?? "") ||
      MARKED.test(fieldValue(split, "x-spam-status") ?? ""),
  };
}
