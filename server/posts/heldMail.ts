import type { getHeld, postHeld } from "@amigo/contract/posts";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { orRefuse, notFound, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { decideHeld } from "../posting/decideHeld";
import { showMessage } from "../posting/showMessage";
import { t } from "../texts/t";
import { decidableHeld } from "./decidableHeld";
import { withLists } from "./withLists";
import { listHeldPosts, findHeldPost, findRaw, storeBeginning } from "./queries";
import { BEGINNING } from "../posting/readMessage";

/** Returns the mail that waits for a decision, oldest first. */
export async function listHeld(
  { db }: Context,
  { caller }: Request<typeof getHeld>,
): Promise<Answer<typeof getHeld>> {
  const rows = await listHeldPosts(db, caller);
  const lines = new Map((await withLists(db, caller, rows)).map((line) => [line.id, line]));
  const older = await beginningsOf(
    db,
    rows.flatMap(({ id, beginning }) => (beginning === null ? [id] : [])),
  );
  const mine = await decidableHeld(
    db,
    caller,
    rows.map(({ id }) => id),
  );
  return rows.map(
    ({ id, subject, fromName, fromAddress, at, beginning, attachments, reasons }) => ({
      id,
      subject,
      from: fromName || fromAddress,
      fromAddress,
      lists: lines.get(id)?.lists ?? [],
      at: at.toISOString(),
      text: beginning ?? older.get(id) ?? "",
      reasons,
      attachments: attachments ?? 0,
      mayDecide: mine.has(id),
    }),
  );
}

/** Sends a held mail out, returns it with a word, or discards it. */
export async function decideHeldMail(
  { db }: Context,
  { params, body, caller }: Request<typeof postHeld>,
): Promise<Answer<typeof postHeld>> {
  const found = await findHeldPost(db, params.id, caller);
  if (found === undefined) throw notFound("post");
  if (found.outcome !== "held")
    throw new Refusal(409, "held/decided", t("posts.hasDecidedOnThisMail", { by: found.by }));
  if (!(await decidableHeld(db, caller, [found.id])).has(found.id))
    throw new Refusal(403, "held/lead", t("posts.leadsAndHelpersOfThe"));
  return orRefuse(
    await decideHeld(db, found.id, { id: caller.id, name: caller.name }, body.decision, body.word),
  );
}

/** The beginnings of held mails that were stored before beginnings were kept; read once, and kept from then on. */
async function beginningsOf(db: Queries, ids: readonly string[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const id of ids) {
    const one = await findRaw(db, id);
    if (one === undefined) continue;
    const { text, attachments } = await showMessage(one.raw);
    const beginning = text.slice(0, BEGINNING).replace(/\u0000/g, " ");
    await storeBeginning(db, beginning, attachments.length, id);
    found.set(id, beginning);
  }
  return found;
}
