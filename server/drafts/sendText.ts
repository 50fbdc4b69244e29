import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { refused, Refused } from "../refused";
import { t } from "../texts/t";
import { sendDraft } from "./sendDraft";
import { findDraftOf, findSent, removeUnsent, storeDraftOf } from "./sentQueries";

/** A plain post that a script, or Amigo for somebody, sends to lists. */
export interface TextToSend {
  /** Sent twice with one key, it goes out once. */
  key: string;
  lists: readonly string[];
  privately: readonly string[];
  subject: string;
  text: string;
  /** Whether it waits for everybody's next digest. */
  inDigest?: boolean;
}

/** Sends a plain post as its sender may: it leaves at once, and once for one key. */
export async function sendText(
  context: Context,
  caller: Caller,
  wanted: TextToSend,
): Promise<{ id: string; addresses: number; outcome: "goes out" | "held" } | Refused> {
  const { db } = context;
  const before = await findSent(db, wanted.key, caller.id);
  if (before !== undefined)
    return {
      ...before,
      outcome: before.outcome === "held" ? ("held" as const) : ("goes out" as const),
    };
  await storeDraftOf(db, wanted, caller.id);
  const row = await findDraftOf(db, wanted.key, caller.id);
  if (row === undefined) return refused(409, "post/key", t("posts.thisKeyWasUsedBy"), "key");
  try {
    const sent = await sendDraft(context, caller, row, undefined, {
      text: wanted.text,
      inDigest: wanted.inDigest,
    });
    if (sent instanceof Refused) {
      await removeUnsent(db, wanted.key);
      return sent;
    }
    return { id: sent.post ?? row.id, addresses: sent.addresses, outcome: sent.outcome };
  } catch (failure) {
    await removeUnsent(db, wanted.key);
    throw failure;
  }
}
