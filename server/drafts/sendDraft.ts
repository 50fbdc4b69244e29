import { languageOf, usualLanguage } from "../texts/familyLanguage";
import { Refused, refused } from "../refused";
import { answeredBy, composeDraft, type DraftRow } from "./composeDraft";
import { sentences } from "@amigo/language/message";
import { inTurnFor, type Version } from "@amigo/core/mail/versions";
import { languageName } from "@amigo/core/text/languageName";
import { filledVersions } from "@amigo/core/mail/merge";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { fieldsFor } from "../membership/fieldsFor";
import { acceptPost, queueNote, recordRefused, storeMessage } from "../posting/acceptPost";
import { readMessage } from "../posting/readMessage";
import { tellHeld } from "../posting/tellHeld";
import { versionsOf } from "./versionsOf";
import { mayLeadOf } from "./mayLead";
import { asksOf } from "./reckonDraft";
import { refuseUnsendable, resolveDraft } from "./resolve";
import { speechHere } from "@amigo/language/texts";
import { t } from "../texts/t";
import { listFiles, lockDraft, markSent, markAccepted, findOwnDraft } from "./queries";
import type { PostToAccept } from "../posting/queries";

export type SentDraft = {
  post: string | null;
  addresses: number;
  outcome: "goes out" | "held";
  leavesAt: string | null;
};

/** A plain text of a script's. */
interface PlainText {
  text: string;
  inDigest?: boolean | undefined;
}

/** The largest mail from the composer, in octets. */
const LARGEST = 20 * 1024 * 1024;

/**
 * Sends a draft as its writer may: every list's rules are asked, everybody gets one copy, and for some seconds it can be
 * taken back. Pressed twice it happens once: the post has the draft's id.
 *
 * @param script a plain text of a script's, in place of the draft's HTML; it leaves at once, or waits for everybody's next digest
 * @param asked what the writer has been asked and wants all the same; undefined when nobody is there to be asked
 */
export async function sendDraft(
  { db, settings }: Pick<Context, "db" | "settings">,
  caller: Caller,
  row: DraftRow,
  asked: readonly string[] | undefined,
  script?: PlainText,
): Promise<SentDraft | Refused> {
  const content = row.content;
  const written = await writtenIn(db, row, script);
  if (written instanceof Refused) return written;
  const resolved = await resolveDraft(
    db,
    caller,
    content,
    written.size,
    written.files.filter(({ cid }) => cid === "").map(({ type, size }) => ({ type, size })),
  );
  if (resolved instanceof Refused) return resolved;
  const lists = resolved.lists.map(({ list }) => list.id);
  const unsendable = refuseUnsendable(resolved, content, await mayLeadOf(db, caller, lists));
  if (unsendable instanceof Refused) return unsendable;
  const addresses = [
    ...new Set([
      ...resolved.lists.flatMap((to) => to.addresses),
      ...resolved.people.map(({ address }) => address),
    ]),
  ];
  if (asked !== undefined) {
    const asks = await asksOf(db, caller, content, resolved, addresses, written.files.length);
    const unasked = refuseUnasked(asks.filter(({ id }) => !asked.includes(id)));
    if (unasked instanceof Refused) return unasked;
  }
  const made = await composeDraft(
    caller,
    content,
    written.versions,
    written.files,
    resolved,
    await answeredBy(db, caller, content),
  );
  const tooLarge = refuseLarge(made.raw.length);
  if (tooLarge instanceof Refused) return tooLarge;
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
    const post = { ...postOf(caller, row, resolved), messageRow, messageId: made.messageId, about };
    return resolved.lists[0]?.verdict.outcome === "held"
      ? await holdPost(tx, { ...post, subject: about.subject }, row, resolved, settings.url)
      : await sendPost(tx, { ...post, subject: about.subject }, row, resolved, {
          caller,
          addresses,
          leavesAt,
          isMerged: made.hasFields,
          inDigest: script?.inDigest,
        });
  });
}

/** What a draft holds: its text in each of its languages, and its files, with the size of all in octets. */
interface Written {
  versions: Version[];
  files: Awaited<ReturnType<typeof listFiles>>;
  size: number;
}

async function writtenIn(
  db: Queries,
  { id, content }: DraftRow,
  script: PlainText | undefined,
): Promise<Written | Refused> {
  const files = await listFiles(db, id);
  const versions = versionsOf(content, await usualLanguage(db));
  if (content.subject.trim() === "")
    return refused(422, "draft/subject", t("drafts.giveItASubject"), "subject");
  const [own] = versions;
  if (own !== undefined && script !== undefined) own.text = script.text;
  if (own?.text.trim() === "" && files.length === 0)
    return refused(422, "draft/text", t("drafts.writeSomething"), "text");
  const unwritten = versions.slice(1).find(({ text }) => text.trim() === "");
  if (unwritten !== undefined)
    return refused(
      422,
      "draft/version",
      t("drafts.aLanguageHasNoText", {
        language: languageName(unwritten.language, speechHere().language),
      }),
      "versions",
    );
  const size =
    versions.reduce(
      (sum, { html, text }) => sum + Buffer.byteLength(html) + Buffer.byteLength(text),
      0,
    ) + files.reduce((sum, file) => sum + file.size, 0);
  return { versions, files, size };
}

/** Refuses to send before its writer has answered what is to be asked. */
function refuseUnasked(open: Awaited<ReturnType<typeof asksOf>>): Refused | undefined {
  const [first] = open;
  if (first !== undefined)
    return refused(409, "draft/ask", sentences(...open.map(({ sentence }) => sentence)), first.id);
}

function refuseLarge(octets: number): Refused | undefined {
  const mebibyte = 1024 * 1024;
  if (octets > LARGEST)
    return refused(
      422,
      "draft/large",
      t("drafts.withItsFilesThisMail", {
        size: Math.ceil(octets / mebibyte),
        most: LARGEST / mebibyte,
      }),
      "files",
    );
}

type Resolved = Exclude<Awaited<ReturnType<typeof resolveDraft>>, Refused>;

type PostMade = Omit<PostToAccept, "privately" | "leavesAt" | "leftOut" | "inDigest" | "fields">;

/** Returns what is stored of a post, whatever becomes of it. */
function postOf(caller: Caller, { id, content }: DraftRow, { lists }: Resolved) {
  const verdict = lists[0]?.verdict;
  return {
    id,
    from: { name: caller.name, address: caller.email },
    accountId: caller.id,
    lists: lists.map(({ list }) => list.id),
    reasons: lists.flatMap((to) => to.verdict.reasons.map(({ sentence }) => sentence)),
    reaches:
      verdict?.outcome === "goes out" || verdict?.outcome === "held"
        ? verdict.reaches
        : ("members" as const),
    returnPath: caller.email,
    asList: content.as === "list",
  };
}

/** Stores a post that the list's rules hold, and tells those who decide on it. */
async function holdPost(
  tx: Queries,
  made: PostMade,
  { id, content }: DraftRow,
  { lists: [first], house }: Resolved,
  url: string,
): Promise<SentDraft> {
  const post = await recordRefused(tx, { ...made, outcome: "held" });
  if (first !== undefined)
    await tellHeld(tx, {
      postId: post,
      list: first.list,
      house,
      from: made.from,
      subject: content.subject,
      askSender: false,
      url,
    });
  await markSent(tx, post, id);
  return { post, addresses: 0, outcome: "held", leavesAt: null };
}

/** Stores a post that goes out, with a copy for everybody whom it reaches. */
async function sendPost(
  tx: Queries,
  made: PostMade,
  { id, content }: DraftRow,
  { people, known, house }: Resolved,
  to: {
    caller: Caller;
    addresses: readonly string[];
    leavesAt: Date | undefined;
    isMerged: boolean;
    inDigest: boolean | undefined;
  },
): Promise<SentDraft> {
  const privately = [
    ...new Set([
      ...people.map(({ address }) => address),
      ...(content.copyToMe ? [to.caller.email] : []),
    ]),
  ];
  const accepted = await acceptPost(tx, {
    ...made,
    privately,
    leavesAt: to.leavesAt,
    leftOut: content.leftOut,
    inDigest: to.inDigest,
    fields: to.isMerged ? fieldsFor([...to.addresses, ...privately], known, house.name) : undefined,
  });
  await markAccepted(tx, accepted.id, id);
  return {
    post: accepted.id,
    addresses: accepted.addresses,
    outcome: "goes out",
    leavesAt: to.leavesAt?.toISOString() ?? null,
  };
}

/** Sends a draft to its writer alone, filled in as for themselves. */
export async function sendTest(
  db: Queries,
  caller: Caller,
  row: DraftRow,
): Promise<Refused | undefined> {
  const files = await listFiles(db, row.id);
  const resolved = await resolveDraft(db, caller, row.content);
  if (resolved instanceof Refused) return resolved;
  const fields =
    fieldsFor([caller.email], resolved.known, resolved.house.name).get(caller.email) ?? {};
  const [first, ...others] = filledVersions(
    inTurnFor(versionsOf(row.content, await usualLanguage(db)), await languageOf(db, caller.email)),
    fields,
  );
  if (first === undefined) throw new Error("a draft has no text");
  const { raw, messageId } = await composeDraft(
    caller,
    row.content,
    [{ ...first, subject: t("drafts.testOf", { subject: first.subject }) }, ...others],
    files,
    { ...resolved, lists: [], people: [] },
  );
  await queueNote(db, raw, messageId, caller.email, "link");
}

/** The draft of a writer that has not become a post. */
export async function ownDraft(
  db: Queries,
  caller: Caller,
  id: string,
): Promise<DraftRow | Refused> {
  const found = await findOwnDraft(db, id, caller.id);
  if (found === undefined) return refused(404, "not-found", t("drafts.thereIsNoSuchDraft"));
  return found;
}
