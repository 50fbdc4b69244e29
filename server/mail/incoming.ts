import addressparser from "nodemailer/lib/addressparser";
import { and, eq, isNull, sql } from "drizzle-orm";
import { tidyLine } from "@amigo/core/text/tidy";
import { parseListAddress } from "@amigo/core/mail/listAddress";
import { readReport } from "@amigo/core/mail/readReport";
import { returnNote } from "@amigo/core/mail/returnNote";
import { robotReason } from "@amigo/core/mail/robots";
import { fieldValue, splitMessage, type SplitMessage } from "@amigo/core/mail/splitMessage";
import { simpleParser } from "mailparser";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { delivery, house, list, listAddress, type DeliveryState } from "../db/schema";
import { notify } from "../events/events";
import { acceptPost, queueNote, recordRefused, storeMessage } from "../posting/acceptPost";
import { judge } from "../posting/judge";
import { composeMail } from "../posting/composeMail";

/** A mail as it came over SMTP. `account` is who signed in for it, if anybody did. */
export interface IncomingMail {
  raw: Buffer;
  returnPath: string;
  recipients: readonly string[];
  account: { id: string; name: string; email: string } | undefined;
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
export async function takeMail({ db }: Pick<Context, "db">, mail: IncomingMail): Promise<void> {
  const [own] = await db.select().from(house);
  if (own === undefined) throw new Error("this house is not set up");
  const split = splitMessage(mail.raw);
  const messageId = fieldValue(split, "message-id") ?? `<${Date.now()}.${mail.raw.length}@${own.listDomain}>`;
  await db.transaction(async (tx) => {
    const messageRow = await storeMessage(tx, mail.raw, messageId);
    for (const recipient of new Set(mail.recipients.map((address) => address.toLowerCase()))) {
      const meant = parseListAddress(recipient, own.listDomain);
      if (meant?.kind === "return") await takeReport(tx, meant.token, mail);
      if (meant?.kind === "list") await takePost(tx, own, meant.list, { mail, split, messageId, messageRow });
    }
  });
}

interface Taken {
  mail: IncomingMail;
  split: SplitMessage;
  messageId: string;
  messageRow: string;
}

async function takePost(tx: Queries, own: typeof house.$inferSelect, name: string, { mail, split, messageId, messageRow }: Taken): Promise<void> {
  const found = await listAt(tx, name);
  if (found === undefined) return;
  const from = senderOf(split, mail);
  const subject = await decodedSubject(mail.raw, split);
  const common = { messageRow, messageId, subject, from, accountId: mail.account?.id ?? null, lists: [found.id] };
  const robot = robotReason(split, mail.returnPath, own.listDomain);
  if (robot !== undefined) {
    await recordRefused(tx, { ...common, outcome: "dropped", reasons: [`It was dropped: ${robot}.`] });
    return;
  }
  const { verdict } = await judge(tx, found, mail.account?.email ?? from.address, mail.account === undefined ? "claimed" : "signed-in");
  const reasons = verdict.reasons.map(({ sentence }) => sentence);
  if (verdict.outcome === "goes out") {
    await acceptPost(tx, { ...common, reasons });
    return;
  }
  await recordRefused(tx, { ...common, outcome: "returned", reasons });
  const [notes] = await tx.select({ count: sql<number>`count(*)`.mapWith(Number) }).from(delivery).where(and(eq(delivery.address, mail.returnPath.toLowerCase()), isNull(delivery.postId), sql`${delivery.createdAt} > now() - interval '1 hour'`));
  if ((notes?.count ?? 0) >= NOTES_AN_HOUR) return;
  const note = returnNote({ subject, list: `${found.title} (${found.name}@${own.listDomain})`, house: own.name, reasons });
  const composed = await composeMail({ from: { name: `${own.name} lists`, address: `postmaster@${own.listDomain}` }, to: [{ name: from.name, address: mail.returnPath }], ...note, domain: own.listDomain, automatic: { inReplyTo: messageId } });
  await queueNote(tx, composed.raw, composed.messageId, mail.returnPath.toLowerCase());
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

async function decodedSubject(raw: Buffer, split: SplitMessage): Promise<string> {
  const parsed = await simpleParser(raw.subarray(0, split.bodyAt));
  return tidyLine(parsed.subject ?? "").slice(0, 500);
}
