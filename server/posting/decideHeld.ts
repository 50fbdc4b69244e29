import { refused, type Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { returnNote } from "@amigo/core/mail/returnNote";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { queueCopies } from "./acceptPost";
import { judge } from "./judge";
import { readMessage } from "./readMessage";
import { sendNote } from "./sendNote";
import { t } from "../texts/t";
import type { post } from "../db/schema/posts";
import { loadHouse } from "../db/houseQueries";
import type { HeldDecision } from "./queries";
import {
  BECOMES,
  markHeldDecided,
  listPostLists,
  lockHeld,
  findPostList,
  findRawOf,
  storeVerdict,
  findMessageIdOf,
} from "./heldQueries";

/**
 * Decides on a held mail: it goes out to whom it would have reached, goes back with a word, or is dropped.
 *
 * @returns how many copies go out
 * Refused with 409 when somebody has decided already.
 */
export async function decideHeld(
  db: Database,
  postId: string,
  by: { id: string | null; name: string },
  decision: HeldDecision,
  word: string,
): Promise<{ addresses: number } | Refused> {
  return inTransaction(db, async (tx) => {
    const row = await markHeldDecided(tx, decision, by.name, word, postId);
    if (row === undefined)
      return refused(409, "held/decided", t("posting.somebodyHasDecidedOnThis"));
    const lists = await listPostLists(tx, postId);
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
    const did = (): string =>
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
        sentence: () =>
          t("posting.decidedOnHeldMailOf", {
            name: by.name,
            sender: row.fromName || row.fromAddress,
            subject: row.subject,
            decision: did(),
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
    const row = await lockHeld(tx, postId);
    const to = await findPostList(tx, postId);
    if (row === undefined || to === undefined) return "decided";
    const stored = await findRawOf(tx, row.messageId);
    const { verdict } = await judge(tx, to, row.fromAddress, "confirmed", {
      message: stored === undefined ? undefined : await readMessage(stored.raw),
    });
    const reasons = verdict.reasons.map(({ sentence }) => sentence);
    const isDecided = verdict.outcome !== "held";
    await storeVerdict(
      tx,
      verdict.outcome,
      verdict.reaches,
      reasons,
      isDecided,
      row.fromName,
      row.fromAddress,
      postId,
    );
    if (verdict.outcome === "goes out")
      await letOut(tx, { ...row, reaches: verdict.reaches }, [to.id]);
    if (verdict.outcome === "returned") await giveBack(tx, row, to, reasons);
    await record(tx, {
      actorId: null,
      actor: row.fromName || row.fromAddress,
      action: "confirm mail",
      listId: to.id,
      sentence: () =>
        t("posting.confirmedByAMailedLink", {
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
  const stored = await findMessageIdOf(tx, row.messageId);
  return queueCopies(tx, {
    id: row.id,
    messageRow: row.messageId,
    messageId: stored?.messageId ?? row.id,
    sender: row.fromAddress,
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
  const house = await loadHouse(tx);
  if (house === undefined || of === undefined || row.returnPath === "") return;
  await sendNote(
    tx,
    { name: row.fromName, address: row.returnPath },
    returnNote({
      subject: row.subject,
      list: `${of.title} (${of.name}@${house.listDomain})`,
      house: house.name,
      reasons,
    }),
  );
}
