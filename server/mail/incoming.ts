import addressparser from "nodemailer/lib/addressparser";
import { and, eq, isNull, sql } from "drizzle-orm";
import { tidyLine } from "@amigo/core/text/tidy";
import { parseListAddress } from "@amigo/core/mail/listAddress";
import { readReport } from "@amigo/core/mail/readReport";
import { returnNote } from "@amigo/core/mail/returnNote";
import { robotReason } from "@amigo/core/mail/robots";
import { fieldValue, splitMessage, type SplitMessage } from "@amigo/core/mail/splitMessage";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import type { Verdict } from "@amigo/core/posting/verdict";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { delivery, house, list, listAddress, type DeliveryState } from "../db/schema";
import { notify } from "../events/events";
import { acceptPost, recordRefused, storeMessage } from "../posting/acceptPost";
import { judge } from "../posting/judge";
import { readMessage, type MessageRead } from "../posting/readMessage";
import { sendNote } from "../posting/sendNote";
import { tellHeld } from "../posting/tellHeld";
import { proofOf, type Connection } from "./proof";

/** A mail as it came over SMTP. `account` is who signed in for it, if anybody did. */
export interface IncomingMail {
  raw: Buffer;
  returnPath: string;
  recipients: readonly string[];
  account: { id: string; name: string; email: string } | undefined;
  /** From where it came; undefined where nothing is known of it. */
  connection: Connection | undefined;
}

/** At most so many notes an hour go to one address, so that nobody is flooded in another's name. */
const NOTES_AN_HOUR = 6;

/** Whether an address at the list domain can be written to. Everything else is refused when it is named. */
export async function isKnownRecipient(db: Queries, address: string): Promise<boolean> {
  const [own] = await db.select({ listDomain: house.listDomain }).from(house);
  const meant = own === undefined ? undefined : parseListAddress(address, own.listDomain);
  if (meant === undefined || meant.kind === "house") return false;
  if (meant.kind === "return") {
    const [found] = await db.select({ id: delivery.id }).from(delivery).where(eq(delivery.token, meant.token));
    return found !== undefined;
  }
  return (await listAt(db, meant.list)) !== undefined;
}

/** The list to which a name leads, also an old name until its last day; a closed one too, for it answers that it is closed. */
async function listAt(db: Queries, name: string): Promise<typeof list.$inferSelect | undefined> {
  const [found] = await db.select({ list }).from(listAddress).innerJoin(list, eq(list.id, listAddress.listId)).innerJoin(house, sql`true`)
    .where(and(eq(listAddress.name, name), sql`not ${listAddress.released}`, sql`(${listAddress.until} is null or ${listAddress.until} >= (now() at time zone ${house.timeZone})::date)`));
  return found?.list;
}

/**
 * Takes one mail: stores it, asks the rules of every list that it is addressed to, queues the copies
 * or the note that returns it. When this returns, the mail is in the database; when it throws, nothing is.
 */
export async function takeMail({ db, resolver, settings }: Pick<Context, "db" | "resolver" | "settings">, mail: IncomingMail): Promise<void> {
  const [own] = await db.select().from(house);
  if (own === undefined) throw new Error("this house is not set up");
  const split = splitMessage(mail.raw);
  const messageId = fieldValue(split, "message-id") ?? `<${Date.now()}.${mail.raw.length}@${own.listDomain}>`;
  const from = senderOf(split, mail);
  // A delivery report is nobody's mail: nothing is looked up for it.
  const proof = mail.account !== undefined ? "signed-in" : mail.connection === undefined || mail.returnPath === "" ? "none" : await proofOf(mail.raw, from.address, { returnPath: mail.returnPath, ...mail.connection }, resolver, own.listDomain);
  const common = { mail, split, messageId, from, proof, about: await readMessage(mail.raw), url: settings.url };
  await db.transaction(async (tx) => {
    const messageRow = await storeMessage(tx, mail.raw, messageId);
    for (const recipient of new Set(mail.recipients.map((address) => address.toLowerCase()))) {
      const meant = parseListAddress(recipient, own.listDomain);
      if (meant?.kind === "return") await takeReport(tx, meant.token, mail);
      if (meant?.kind === "list") await takePost(tx, own, meant.list, { ...common, messageRow });
      if (meant?.kind === "leads") await takeForLeads(tx, own, meant.list, { ...common, messageRow });
    }
  });
}

interface Taken {
  mail: IncomingMail;
  split: SplitMessage;
  messageId: string;
  messageRow: string;
  from: { name: string; address: string };
  proof: Proof;
  about: MessageRead;
  /** Where the pages are, for links. */
  url: string;
}

async function takePost(tx: Queries, own: typeof house.$inferSelect, name: string, { mail, split, messageId, messageRow, from, proof, about, url }: Taken): Promise<void> {
  const found = await listAt(tx, name);
  if (found === undefined) return;
  const { subject } = about;
  const common = { messageRow, messageId, subject, from, accountId: mail.account?.id ?? null, lists: [found.id], returnPath: mail.returnPath.toLowerCase() };
  const robot = robotReason(split, mail.returnPath, own.listDomain);
  if (robot !== undefined) {
    await recordRefused(tx, { ...common, outcome: "dropped", reasons: [`It was dropped: ${robot}.`] });
    return;
  }
  const { verdict } = await judge(tx, found, mail.account?.email ?? from.address, proof, about);
  const reasons = verdict.reasons.map(({ sentence }) => sentence);
  if (verdict.outcome === "goes out") {
    await acceptPost(tx, { ...common, reasons, reaches: verdict.reaches });
    return;
  }
  const postId = await recordRefused(tx, { ...common, outcome: verdict.outcome, reaches: verdict.reaches, reasons });
  if (verdict.outcome === "held") await tellHeld(tx, { postId, list: found, house: own, from, subject, askSender: verdict.askSender, url });
  if (verdict.outcome === "returned") await returnMail(tx, { house: own, list: found, subject, from, returnPath: mail.returnPath, messageId, reasons: toldTo(mail.returnPath, from.address, proof, verdict) });
}

/**
 * The reasons that a note may tell. Where nothing proves that a mail is its From line's and the note goes to another
 * address, it does not say who that is to the list: else anybody could ask in another's name.
 */
function toldTo(returnPath: string, from: string, proof: Proof, { reasons }: Verdict): string[] {
  const isTheirs = proof !== "none" || returnPath.toLowerCase() === from;
  return reasons.filter(({ rule }) => isTheirs || (rule !== "sender" && rule !== "also")).map(({ sentence }) => sentence);
}

/** Mail to the leads of a list goes to them and nobody else: answers to posts, and questions. */
async function takeForLeads(tx: Queries, own: typeof house.$inferSelect, name: string, { mail, split, messageId, messageRow, from, about }: Taken): Promise<void> {
  const found = await listAt(tx, name);
  if (found === undefined) return;
  const common = { messageRow, messageId: `leads ${messageId}`, subject: about.subject, from, accountId: mail.account?.id ?? null, lists: [found.id], returnPath: mail.returnPath.toLowerCase(), reaches: "leads" as const };
  const robot = robotReason(split, mail.returnPath, own.listDomain) ?? (about.looksLikeSpam && mail.account === undefined ? "a filter on the way has marked it as unwanted" : undefined);
  if (robot === undefined) await acceptPost(tx, { ...common, reasons: ["It is for the leads of the list."] });
  else await recordRefused(tx, { ...common, outcome: "dropped", reasons: [`It was dropped: ${robot}.`] });
}

/** Returns a mail to where it came from, with the reasons; not to one address again and again. */
async function returnMail(tx: Queries, { house: own, list: found, subject, from, returnPath, messageId, reasons }: { house: typeof house.$inferSelect; list: { title: string; name: string }; subject: string; from: { name: string }; returnPath: string; messageId: string; reasons: readonly string[] }): Promise<void> {
  const [notes] = await tx.select({ count: sql<number>`count(*)`.mapWith(Number) }).from(delivery).where(and(eq(delivery.address, returnPath.toLowerCase()), isNull(delivery.postId), sql`${delivery.createdAt} > now() - interval '1 hour'`));
  if ((notes?.count ?? 0) >= NOTES_AN_HOUR) return;
  const note = returnNote({ subject, list: `${found.title} (${found.name}@${own.listDomain})`, house: own.name, reasons });
  await sendNote(tx, { name: from.name, address: returnPath.toLowerCase() }, note, messageId);
}

/** A delivery report that comes back to the return path of one copy marks that copy. */
async function takeReport(tx: Queries, token: string, mail: IncomingMail): Promise<void> {
  if (mail.returnPath !== "") return;
  const report = readReport(mail.raw.toString("latin1"));
  if (report?.outcome !== "failed") return;
  const state: DeliveryState = "bounced";
  await tx.update(delivery).set({ state, reply: `${report.status} ${tidyLine(report.words)}`.trim() }).where(eq(delivery.token, token));
  await notify(tx, "posts");
}

function senderOf(split: SplitMessage, mail: IncomingMail): { name: string; address: string } {
  const [first] = addressparser(fieldValue(split, "from") ?? "", { flatten: true });
  const address = (first?.address ?? mail.returnPath).toLowerCase();
  if (mail.account !== undefined) return { name: mail.account.name, address: mail.account.email };
  return { name: tidyLine(first?.name ?? "").slice(0, 200), address: address.slice(0, 254) };
}
