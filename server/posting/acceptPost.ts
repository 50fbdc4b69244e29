import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { randomUUID } from "node:crypto";
import type { NotesAlike } from "./composeAlike";
import { queueNotesTo, queueNoteTo, queueSheetTo, type Note, type PRIORITIES } from "./noteQueries";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { t } from "../texts/t";
import { type message, type MergeParts, post } from "../db/schema/posts";
import {
  storeRaw,
  storePost,
  storePostLists,
  queuePrivately,
  storeFields,
  listTitles,
  storeListMessages,
  type PostToAccept,
  placeOf,
  queueForMembers,
  queueForLeads,
  type CopiesToQueue,
} from "./queries";

/** Keeps a message as it came in. */
export async function storeMessage(
  db: Queries,
  raw: Buffer,
  messageId: string,
  more: { arc?: typeof message.$inferInsert.arc; merge?: MergeParts | null } = {},
): Promise<string> {
  const row = await storeRaw(db, raw, messageId, more);
  if (row === undefined) throw new Error("the message was not stored");
  return row.id;
}

/**
 * Takes a post for delivery: one row a recipient, whichever of the lists leads to them, the first list
 * that holds an address being the one whose copy it gets. A message id that a list has had before
 * goes out to it no second time.
 *
 * @returns how many addresses it goes to, and which of the lists take it
 */
export async function acceptPost(
  tx: Queries,
  wanted: PostToAccept,
): Promise<{ id: string; addresses: number; lists: string[] }> {
  const id = wanted.id ?? randomUUID();
  const { privately = [], reaches = "members", leavesAt, leftOut = [], fields } = wanted;
  const { signatures = [], messageId } = wanted;
  const lists = await notYetTaken(tx, wanted.lists, [
    messageId,
    ...signatures.map((signature) => `signature ${signature}`),
  ]);
  if (lists.length === 0 && privately.length === 0) return { id, addresses: 0, lists };
  await storePost(tx, id, wanted, reaches, leavesAt);
  if (lists.length > 0) await storePostLists(tx, lists, id);
  const made = await queueFor(tx, {
    ...{ id, messageId, reaches, lists, leavesAt, leftOut },
    messageRow: wanted.messageRow,
    sender: wanted.from.address,
    inDigest: wanted.inDigest,
  });
  const alone =
    privately.length === 0
      ? undefined
      : await queuePrivately(tx, wanted.messageRow, id, leavesAt, privately);
  if (fields !== undefined) await storeFields(tx, fields, id);
  const addresses = made + (alone?.rowCount ?? 0);
  const titles = lists.length === 0 ? [] : await listTitles(tx, lists);
  const sentence = () =>
    t("posting.wroteTo", {
      name: wanted.from.name || wanted.from.address,
      subject: wanted.subject,
      reaches,
      lists: say(each(titles.map(({ title }) => title))) || t("posting.peopleOfTheirOwnChoice"),
      addresses,
    });
  await record(
    tx,
    ...(lists.length === 0 ? [undefined] : lists).map((listId) => ({
      actorId: wanted.accountId,
      actor: wanted.from.name || wanted.from.address,
      action: "post" as const,
      listId,
      sentence,
    })),
  );
  await notify(tx, "posts", "queue");
  return { id, addresses, lists };
}

/** The lists that have not had a message with one of these marks, which they have from now on. */
async function notYetTaken(
  tx: Queries,
  lists: readonly string[],
  marks: readonly string[],
): Promise<string[]> {
  return lists.length === 0 ? [] : storeListMessages(tx, lists, marks);
}

/** Queues the copies of a post that was held and is let out. Returns how many. */
export async function queueCopies(
  tx: Queries,
  held: CopiesToQueue & { messageId: string },
): Promise<number> {
  return queueFor(tx, { ...held, lists: await notYetTaken(tx, held.lists, [held.messageId]) });
}

function queueFor(tx: Queries, wanted: CopiesToQueue): Promise<number> {
  return wanted.reaches === "leads"
    ? queueForLeads(tx, wanted.id, wanted.messageRow, wanted.lists)
    : queueForMembers(tx, wanted);
}

/** Records a mail that did not go out, or not yet, and why. */
export async function recordRefused(
  tx: Queries,
  wanted: PostToAccept & { outcome: "held" | "returned" | "dropped" },
): Promise<string> {
  const id = wanted.id ?? randomUUID();
  const [row] = await tx
    .insert(post)
    .values({
      id,
      ...(await placeOf(tx, id, wanted)),
      messageId: wanted.messageRow,
      subject: wanted.subject,
      fromName: wanted.from.name,
      fromAddress: wanted.from.address,
      accountId: wanted.accountId,
      outcome: wanted.outcome,
      reaches: wanted.reaches ?? "members",
      asList: wanted.asList ?? false,
      returnPath: wanted.returnPath ?? "",
      reasons: [...wanted.reasons],
    })
    .returning({ id: post.id });
  if (row === undefined) throw new Error("the post was not recorded");
  if (wanted.lists.length > 0) await storePostLists(tx, wanted.lists, row.id);
  await record(
    tx,
    ...wanted.lists.map((listId) => ({
      actor: wanted.from.name || wanted.from.address,
      action: wanted.outcome,
      listId,
      sentence: () =>
        t("posting.mailOfWas", {
          name: wanted.from.name || wanted.from.address,
          outcome: wanted.outcome,
          reasons: wanted.reasons[wanted.reasons.length - 1] ?? "",
        }),
    })),
  );
  await notify(tx, "posts");
  return row.id;
}

/** Queues a mail of Amigo's own to one address, ahead of announcements. */
export async function queueNote(
  tx: Queries,
  raw: Buffer,
  messageId: string,
  address: string,
  what: keyof typeof PRIORITIES = "note",
): Promise<void> {
  // In one statement: a house in which many sign up at once queues hundreds of these a second.
  await queueNoteTo(tx, raw, messageId, address, what);
}

/** Queues many mails of Amigo's own that are alike: as {@link queueNote} does, in few statements. */
export async function queueAlike(
  tx: Queries,
  mails: readonly NotesAlike[],
  what: keyof typeof PRIORITIES = "note",
): Promise<void> {
  for (const { sheet, notes } of mails) {
    if (sheet !== undefined) await queueSheetTo(tx, sheet, what);
    await queueNotes(tx, notes, what);
  }
}

/** Queues many mails of Amigo's own, each to one address: as {@link queueNote} does, in few statements. */
export async function queueNotes(
  tx: Queries,
  notes: readonly Note[],
  what: keyof typeof PRIORITIES = "note",
): Promise<void> {
  if (notes.length > 0) await queueNotesTo(tx, notes, what);
}
