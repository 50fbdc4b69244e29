import { and, eq, sql } from "drizzle-orm";
import { returnNote } from "@amigo/core/mail/returnNote";
import type { HELD_DECISIONS } from "@amigo/contract/posts";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { record } from "../journal/record";
import { queueCopies } from "./acceptPost";
import { judge } from "./judge";
import { readMessage } from "./readMessage";
import { sendNote } from "./sendNote";
import { t } from "../texts/t";
import { house } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { message, post, postList } from "../db/schema/posts";

/** What can be decided on a mail that is held. */
export type HeldDecision = (typeof HELD_DECISIONS)[number];

const BECOMES = { "let out": "goes out", return: "returned", drop: "dropped" } as const;

/**
 * Decides on a held mail: it goes out to whom it would have reached, goes back with a word, or is dropped.
 *
 * @returns how many copies go out
 * @throws Refusal 409 when somebody has decided already
 */
export async function decideHeld(
  db: Database,
  postId: string,
  by: { id: string | null; name: string },
  decision: HeldDecision,
  word: string,
): Promise<{ addresses: number }> {
  return db.transaction(async (tx) => {
    const [row] = await tx
      .update(post)
      .set({
        outcome: BECOMES[decision],
        decidedBy: by.name,
        decidedAt: sql`now()`,
        ...(word === "" ? {} : { reasons: sql`${post.reasons} || ${word}::text` }),
      })
      .where(and(eq(post.id, postId), eq(post.outcome, "held")))
      .returning();
    if (row === undefined)
      throw new Refusal(409, "held/decided", t("posting.somebodyHasDecidedOnThis"));
    const lists = await tx
      .select({ id: list.id, title: list.title, name: list.name })
      .from(postList)
      .innerJoin(list, eq(list.id, postList.listId))
      .where(eq(postList.postId, postId));
    const addresses =
      decision === "let out"
        ? await letOut(
            tx,
            row,
            lists.map(({ id }) => id),
          )
        : 0;
    if (decision === "return")
      await giveBack(
        tx,
        row,
        lists[0],
        word === ""
          ? [t("posting.lookedAtItAndReturned2", { name: by.name })]
          : [t("posting.lookedAtItAndReturned", { name: by.name, word })],
      );
    const did =
      decision === "let out"
        ? t("posting.letOutTo", { addresses })
        : decision === "return"
          ? "returned"
          : "dropped";
    await record(
      tx,
      ...lists.map(({ id: listId }) => ({
        actorId: by.id,
        actor: by.name,
        action: decision === "let out" ? ("let out" as const) : BECOMES[decision],
        listId,
        sentence: t("posting.decidedOnHeldMailOf", {
          name: by.name,
          sender: row.fromName || row.fromAddress,
          subject: row.subject,
          decision: did,
          word,
        }),
      })),
    );
    await notify(tx, "posts", "queue", "board");
    return { addresses };
  });
}

/** The claimed sender has said that a held mail is theirs: the rules are asked again, with that as the proof. */
export async function confirmHeld(
  db: Database,
  postId: string,
): Promise<"goes out" | "held" | "returned" | "dropped" | "decided"> {
  return db.transaction(async (tx) => {
    const [row] = await tx
      .select()
      .from(post)
      .where(and(eq(post.id, postId), eq(post.outcome, "held")))
      .for("update");
    const [to] = await tx
      .select({
        id: list.id,
        rules: list.rules,
        closedAt: list.closedAt,
        siteId: list.siteId,
        title: list.title,
        name: list.name,
      })
      .from(postList)
      .innerJoin(list, eq(list.id, postList.listId))
      .where(eq(postList.postId, postId));
    if (row === undefined || to === undefined) return "decided";
    const [stored] = await tx
      .select({ raw: message.raw })
      .from(message)
      .where(eq(message.id, row.messageId));
    const { verdict } = await judge(tx, to, row.fromAddress, "confirmed", {
      message: stored === undefined ? undefined : await readMessage(stored.raw),
    });
    const reasons = verdict.reasons.map(({ sentence }) => sentence);
    const isDecided = verdict.outcome !== "held";
    await tx
      .update(post)
      .set({
        outcome: verdict.outcome,
        reaches: verdict.reaches,
        reasons,
        ...(isDecided ? { decidedBy: row.fromName || row.fromAddress, decidedAt: sql`now()` } : {}),
      })
      .where(eq(post.id, postId));
    if (verdict.outcome === "goes out")
      await letOut(tx, { ...row, reaches: verdict.reaches }, [to.id]);
    if (verdict.outcome === "returned") await giveBack(tx, row, to, reasons);
    await record(tx, {
      actorId: null,
      actor: row.fromName || row.fromAddress,
      action: "confirm mail",
      listId: to.id,
      sentence: t("posting.confirmedByAMailedLink", {
        sender: row.fromName || row.fromAddress,
        subject: row.subject,
        goesOut: verdict.outcome === "goes out",
        outcome: verdict.outcome,
      }),
    });
    await notify(tx, "posts", "queue", "board");
    return verdict.outcome;
  });
}

async function letOut(
  tx: Queries,
  row: typeof post.$inferSelect,
  lists: readonly string[],
): Promise<number> {
  const [stored] = await tx
    .select({ messageId: message.messageId })
    .from(message)
    .where(eq(message.id, row.messageId));
  return queueCopies(tx, {
    id: row.id,
    messageRow: row.messageId,
    messageId: stored?.messageId ?? row.id,
    reaches: row.reaches,
    lists,
  });
}

async function giveBack(
  tx: Queries,
  row: typeof post.$inferSelect,
  of: { title: string; name: string } | undefined,
  reasons: readonly string[],
): Promise<void> {
  const [own] = await tx.select().from(house);
  if (own === undefined || of === undefined || row.returnPath === "") return;
  await sendNote(
    tx,
    { name: row.fromName, address: row.returnPath },
    returnNote({
      subject: row.subject,
      list: `${of.title} (${of.name}@${own.listDomain})`,
      house: own.name,
      reasons,
    }),
  );
}
