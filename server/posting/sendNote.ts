import { written } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { escapeHtml } from "@amigo/core/text/escapeHtml";
import { oneHeaderLine } from "@amigo/core/mail/headerText";
import type { Note } from "@amigo/core/mail/returnNote";
import type { Queries } from "../db/connect";
import { queueNote } from "./acceptPost";
import { composeMail, type MailToCompose } from "./composeMail";
import { loadHouse } from "../db/houseQueries";
import type { PRIORITIES } from "./noteQueries";
import { findStaffLanguage, housePicture } from "./queries";
import { inLanguage, inStaffLanguage } from "../texts/inLanguage";
import { languageOf } from "../texts/familyLanguage";

/** What a note may have beside its words. */
type NoteOptions = {
  inReplyTo?: string | undefined;
  what?: keyof typeof PRIORITIES;
} & Pick<MailToCompose, "replyTo" | "attached" | "fields">;

/**
 * Queues a note of Amigo's own to somebody of a family, in their language: the one that is given, else the one that is known of
 * the address. `make` is called where that is spoken.
 */
export async function sendFamilyNote(
  tx: Queries,
  to: { name: string; address: string },
  make: () => Note,
  { language, ...options }: NoteOptions & { language?: string | undefined } = {},
): Promise<void> {
  const spoken = language ?? (await languageOf(tx, to.address));
  const note = inLanguage(spoken, () => {
    const { subject, text } = make();
    return { subject: written(oneHeaderLine(say(subject))), text: written(say(text)) };
  });
  await sendNote(tx, to, note, {
    ...options,
    // RFC 3282.
    fields: { ...options.fields, "Content-Language": spoken },
  });
}

/**
 * Queues a note of Amigo's own to one person, from the house's postmaster.
 *
 * @param note said in the language of whoever reads it: messages, or what makes the texts when that is spoken
 * @param options `inReplyTo` is the id of the message that it answers; `what` says how soon it goes
 */
export async function sendNote(
  tx: Queries,
  to: { name: string; address: string },
  note: Note | (() => Note),
  { inReplyTo, what = "note", ...more }: NoteOptions = {},
): Promise<void> {
  const house = await loadHouse(tx);
  if (house === undefined) return;
  const { text, subject } = inStaffLanguage(
    () => {
      const made = typeof note === "function" ? note() : note;
      return { text: say(made.text), subject: oneHeaderLine(say(made.subject)) };
    },
    await findStaffLanguage(tx, to.address),
  );
  // A mail that signs somebody in shows whom it is from; all others are text alone.
  const shown = what === "link" ? await housePicture(tx) : undefined;
  const { raw, messageId } = await composeMail({
    from: { name: `${house.name} lists`, address: `postmaster@${house.listDomain}` },
    to: [to],
    subject,
    text,
    domain: house.listDomain,
    automatic: { inReplyTo },
    ...(shown === undefined ? {} : withPicture(text, house.name, shown)),
    ...more,
  });
  await queueNote(tx, raw, messageId, to.address, what);
}

/** The same text as HTML, below the picture and the name of the school or club. */
function withPicture(
  text: string,
  name: string,
  { type, content }: { type: string; content: Buffer },
): Pick<MailToCompose, "html" | "attachments"> {
  const cid = "school@amigo";
  const paragraphs = escapeHtml(text)
    .split(/(?:\r?\n){2,}/)
    .map(
      (paragraph) =>
        `<p>${paragraph.replace(/\r?\n/g, "<br>").replace(/https?:\/\/[^\s<]+/g, '<a href="$&">$&</a>')}</p>`,
    );
  return {
    html: `<p><img src="cid:${cid}" alt="" height="64"><br><b>${escapeHtml(name)}</b></p>${paragraphs.join("")}`,
    attachments: [{ name: `school.${type.slice("image/".length)}`, type, content, cid }],
  };
}
