import type { getTrace, TraceLine } from "@amigo/contract/trace";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import type { Request, Answer } from "../http/handler";
import { subjectOfNote } from "../posting/subjectOfNote";
import { t } from "../texts/t";
import { LINES, listCopies, listIncoming, listMeant, listWritten, type Sought } from "./queries";

/** What comes of a mail at the same moment as the mail is newer. */
const ORDER = { copy: 0, post: 1, in: 2 } as const;

/** From how many signs on words are looked for in what the relay answered. */
const FEWEST = 5;

/** Returns what happened to mail: what came in, what was written here, and each mail to an address, the newest first. */
export async function showTrace(
  { db }: Context,
  { query, caller }: Request<typeof getTrace>,
): Promise<Answer<typeof getTrace>> {
  const before =
    query.before === undefined ? new Date(Date.now() + 60_000) : new Date(query.before);
  const sought: Sought = {
    account: caller.id,
    words: query.q,
    lists: await listMeant(db, query.q),
  };
  const isAddress = query.q.includes("@");
  const lines = [
    ...(await incoming(db, sought, before)),
    ...(await written(db, sought, before)),
    ...(isAddress || (query.q.length >= FEWEST && /\d/.test(query.q))
      ? await copies(db, sought, before)
      : []),
  ].sort((one, other) =>
    one.at === other.at ? ORDER[one.kind] - ORDER[other.kind] : one.at < other.at ? 1 : -1,
  );
  const shown = lines.slice(0, LINES);
  return {
    lines: shown,
    before: lines.length > LINES || lines.length === LINES ? (shown.at(-1)?.at ?? null) : null,
  };
}

async function incoming(db: Queries, sought: Sought, before: Date): Promise<TraceLine[]> {
  return (await listIncoming(db, sought, before)).map((row) => ({
    kind: "in",
    at: row.at.toISOString(),
    id: row.id,
    from: row.fromName,
    fromAddress: row.fromAddress,
    returnPath: row.returnPath,
    subject: row.subject,
    size: row.size,
    network: row.network,
    helo: row.helo,
    secure: row.secure,
    proof: row.proof,
    answer: row.answer,
    parts: row.parts.map(({ part, title }) => ({
      recipient: part.recipient,
      list: part.listId === null || title === null ? null : { id: part.listId, title },
      result: part.result,
      reasons: part.reasons,
      post: part.postId,
    })),
  }));
}

async function written(db: Queries, sought: Sought, before: Date): Promise<TraceLine[]> {
  return (await listWritten(db, sought, before)).map((row) => ({
    kind: "post",
    at: new Date(row.at).toISOString(),
    id: row.id,
    from: row.from_name || row.from_address,
    subject: row.subject,
    lists: row.lists ?? [],
    sent: row.sent,
    waiting: row.waiting,
    failed: row.failed,
  }));
}

async function copies(db: Queries, sought: Sought, before: Date): Promise<TraceLine[]> {
  const rows = await listCopies(db, sought, before);
  return Promise.all(
    rows.map(
      async ({
        id,
        at,
        nextAt,
        subject,
        isDigest,
        postId,
        list,
        head,
        isSecret,
        ...row
      }): Promise<TraceLine> => ({
        kind: "copy",
        ...row,
        at: at.toISOString(),
        id: String(id),
        subject: isSecret
          ? t("trace.toPeopleOfTheirChoice")
          : (subject ?? (await subjectOfNote(head)) ?? t("trace.aNote")),
        what: isDigest ? "digest" : postId === null ? "note" : "post",
        list: list ?? "",
        post: isSecret ? null : postId,
        nextAt: row.state === "deferred" ? nextAt.toISOString() : null,
      }),
    ),
  );
}
