import { sentences } from "@amigo/language/message";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";
import { fillMerge, mergeFieldsIn } from "@amigo/core/mail/merge";
import type { DraftContent } from "@amigo/contract/drafts";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import { fieldsFor } from "../membership/fieldsFor";
import { acceptPost, queueNote, recordRefused, storeMessage } from "../posting/acceptPost";
import { composeMail } from "../posting/composeMail";
import { readMessage } from "../posting/readMessage";
import { tellHeld } from "../posting/tellHeld";
import { cleanHtml, textOf, withParts } from "./draftHtml";
import { mayLeadOf } from "./mayLead";
import { asksOf } from "./reckonDraft";
import { refuseUnsendable, resolveDraft, type ResolvedDraft } from "./resolve";
import { t } from "../texts/t";
import { type draft, type draftFile } from "../db/schema/drafts";
import {
  listFiles,
  lockDraft,
  markSent,
  markAccepted,
  findAnswered,
  findOwnDraft,
} from "./queries";

export type SentDraft = {
  post: string | null;
  addresses: number;
  outcome: "goes out" | "held";
  leavesAt: string | null;
};
type DraftRow = typeof draft.$inferSelect;

/** The largest mail from the composer, in octets. */
const LARGEST = 20 * 1024 * 1024;
const MOST_REFERENCES = 30;

/**
 * Sends a draft as its writer may: every list's rules are asked, everybody gets one copy, and for some seconds it can be
 * taken back. Pressed twice it happens once: the post has the draft's id.
 *
 * @param script a plain text of a script's, in place of the draft's HTML; it leaves at once
 * @param asked what the writer has been asked and wants all the same; undefined when nobody is there to be asked
 */
export async function sendDraft(
  { db, settings }: Pick<Context, "db" | "settings">,
  caller: Caller,
  row: DraftRow,
  asked: readonly string[] | undefined,
  script?: { text: string },
): Promise<SentDraft> {
  const content = row.content;
  const files = await listFiles(db, row.id);
  const html = cleanHtml(content.html);
  if (content.subject.trim() === "")
    throw new Refusal(422, "draft/subject", t("drafts.giveItASubject"), "subject");
  const text = script?.text ?? textOf(html);
  if (text.trim() === "" && files.length === 0)
    throw new Refusal(422, "draft/text", t("drafts.writeSomething"), "text");
  const resolved = await resolveDraft(
    db,
    caller,
    content,
    Buffer.byteLength(html) +
      Buffer.byteLength(text) +
      files.reduce((sum, { size }) => sum + size, 0),
    files.filter(({ cid }) => cid === "").map(({ type, size }) => ({ type, size })),
  );
  refuseUnsendable(
    resolved,
    content,
    await mayLeadOf(
      db,
      caller,
      resolved.lists.map(({ list }) => list.id),
    ),
  );
  const addresses = [
    ...new Set([
      ...resolved.lists.flatMap((own) => own.addresses),
      ...resolved.people.map(({ address }) => address),
    ]),
  ];
  const open =
    asked === undefined
      ? []
      : (await asksOf(db, caller, content, resolved, addresses, files.length)).filter(
          ({ id }) => !asked.includes(id),
        );
  if (open.length > 0)
    throw new Refusal(
      409,
      "draft/ask",
      sentences(...open.map(({ sentence }) => sentence)),
      open[0]?.id ?? "",
    );
  const made = await composeDraft(
    caller,
    content,
    { html, text },
    files,
    resolved,
    await answeredBy(db, caller, content),
  );
  if (made.raw.length > LARGEST)
    throw new Refusal(
      422,
      "draft/large",
      t("drafts.withItsFilesThisMail", {
        size: Math.ceil(made.raw.length / 1024 / 1024),
        most: LARGEST / 1024 / 1024,
      }),
      "files",
    );
  const about = await readMessage(made.raw);
  const leavesAt =
    script !== undefined ? undefined : new Date(Date.now() + resolved.house.undoSeconds * 1000);
  return db.transaction(async (tx) => {
    const locked = await lockDraft(tx, row.id);
    if (locked?.postId != null)
      return {
        post: locked.postId,
        addresses: addresses.length,
        outcome: "goes out" as const,
        leavesAt: null,
      };
    const messageRow = await storeMessage(tx, made.raw, made.messageId, { merge: made.merge });
    const first = resolved.lists[0];
    const common = {
      id: row.id,
      messageRow,
      messageId: made.messageId,
      subject: about.subject,
      from: { name: caller.name, address: caller.email },
      accountId: caller.id,
      lists: resolved.lists.map(({ list }) => list.id),
      reasons: resolved.lists.flatMap(({ verdict }) =>
        verdict.reasons.map(({ sentence }) => sentence),
      ),
      reaches:
        first?.verdict.outcome === "goes out" || first?.verdict.outcome === "held"
          ? first.verdict.reaches
          : ("members" as const),
      returnPath: caller.email,
      about,
      asList: content.as === "list",
    };
    if (first?.verdict.outcome === "held") {
      const post = await recordRefused(tx, { ...common, outcome: "held" });
      await tellHeld(tx, {
        postId: post,
        list: first.list,
        house: resolved.house,
        from: common.from,
        subject: content.subject,
        askSender: false,
        url: settings.url,
      });
      await markSent(tx, post, row.id);
      return { post, addresses: 0, outcome: "held" as const, leavesAt: null };
    }
    const privately = [
      ...new Set([
        ...resolved.people.map(({ address }) => address),
        ...(content.copyToMe ? [caller.email] : []),
      ]),
    ];
    const accepted = await acceptPost(tx, {
      ...common,
      privately,
      leavesAt,
      leftOut: content.leftOut,
      fields:
        made.merge === null
          ? undefined
          : fieldsFor([...addresses, ...privately], resolved.known, resolved.house.name),
    });
    await markAccepted(tx, accepted.id, row.id);
    return {
      post: accepted.id,
      addresses: accepted.addresses,
      outcome: "goes out" as const,
      leavesAt: leavesAt?.toISOString() ?? null,
    };
  });
}

/** Sends a draft to its writer alone, filled in as for themselves. */
export async function sendTest(db: Queries, caller: Caller, row: DraftRow): Promise<void> {
  const files = await listFiles(db, row.id);
  const resolved = await resolveDraft(db, caller, row.content);
  const fields =
    fieldsFor([caller.email], resolved.known, resolved.house.name).get(caller.email) ?? {};
  const html = fillMerge(cleanHtml(row.content.html), fields, "html");
  const { raw, messageId } = await composeDraft(
    caller,
    {
      ...row.content,
      subject: t("drafts.testOf", { subject: fillMerge(row.content.subject, fields, "text") }),
    },
    { html, text: textOf(html) },
    files,
    { ...resolved, lists: [], people: [] },
  );
  await queueNote(db, raw, messageId, caller.email, "link");
}

/** The mail that a draft answers, as far as its writer may see it; what is no longer kept is answered without its thread. */
async function answeredBy(
  db: Queries,
  caller: Caller,
  { answers }: DraftContent,
): Promise<{ messageId: string; references: string[] } | undefined> {
  // Drafts from before there were answers do not say so.
  if (answers == null) return undefined;
  const found = await findAnswered(db, answers, caller);
  if (found === undefined) return undefined;
  const before = fieldValue(splitMessage(found.head), "references") ?? "";
  return {
    messageId: found.messageId,
    references: [...before.matchAll(/<[^<>\s]+>/g)].map(([id]) => id).slice(-MOST_REFERENCES),
  };
}

/** The mail as MIME, its fields filled in with nothing; and the parts to fill in for each recipient, where there are any. */
async function composeDraft(
  caller: Caller,
  content: DraftContent,
  { html, text }: { html: string; text: string },
  files: readonly (typeof draftFile.$inferSelect)[],
  { house, lists, people }: ResolvedDraft,
  answers?: { messageId: string; references: string[] },
) {
  const parts = { subject: content.subject.trim(), html: withParts(html, files), text };
  const hasFields = mergeFieldsIn(`${parts.subject} ${parts.text}`).some(({ known }) => known);
  const head = (place: "to" | "cc") => [
    ...lists
      .filter((own) => own.place === place)
      .map(({ list }) => ({ name: list.title, address: `${list.name}@${house.listDomain}` })),
    ...(content.shown
      ? people.filter((own) => own.place === place).map(({ name, address }) => ({ name, address }))
      : []),
  ];
  const to = head("to");
  const made = await composeMail({
    from: { name: caller.name, address: caller.email },
    to: to.length === 0 ? [{ name: caller.name, address: caller.email }] : to,
    cc: head("cc"),
    subject: fillMerge(parts.subject, {}, "text"),
    text: fillMerge(parts.text, {}, "text"),
    html: fillMerge(parts.html, {}, "html"),
    domain: house.listDomain,
    ...(answers === undefined ? {} : { answers }),
    attachments: files.map(({ name, type, content: octets, cid }) => ({
      name,
      type,
      content: octets,
      cid,
    })),
  });
  return { ...made, merge: hasFields ? parts : null };
}

/** The draft of a writer that has not become a post. */
export async function ownDraft(db: Queries, caller: Caller, id: string): Promise<DraftRow> {
  const found = await findOwnDraft(db, id, caller.id);
  if (found === undefined) throw new Refusal(404, "not-found", t("drafts.thereIsNoSuchDraft"));
  return found;
}
