import { canonicalAddress } from "@amigo/core/address/domainName";
import type { Said } from "@amigo/language/say";
import { returnNote } from "@amigo/core/mail/returnNote";
import { robotReason } from "@amigo/core/mail/robots";
import type { Verdict } from "@amigo/core/posting/verdict";
import type { Queries } from "../db/connect";
import { acceptPost, recordRefused } from "../posting/acceptPost";
import { judge } from "../posting/judge";
import { sendNote } from "../posting/sendNote";
import { tellHeld } from "../posting/tellHeld";
import { t } from "../texts/t";
import type { PostToAccept } from "../posting/queries";
import type { MailPart, Taken } from "./incomingMail";
import type { list } from "../db/schema/lists";
import { takeInvitation } from "./takeInvitation";
import { countNotes } from "./queries";

type List = typeof list.$inferSelect;

/** How many notes an hour may go to one address, so that nobody is flooded in another's name. */
const NOTES_AN_HOUR = 6;

/** A list whose rules let a mail out to its members. */
export interface GoesOut {
  goesTo: List;
  recipient: string;
  reasons: readonly string[];
}

/**
 * Takes a mail for the members of a list: it is held, goes back or is discarded as the rules have it. Where it goes out, it is
 * not sent yet: all lists that let it out send it together, by {@link sendTogether}.
 */
export async function takePost(
  tx: Queries,
  to: List,
  recipient: string,
  taken: Taken,
): Promise<MailPart | GoesOut> {
  const { mail, split, from, proof, about, house, doubt } = taken;
  const part = { recipient, listId: to.id };
  const common = { ...postOf(taken), lists: [to.id] };
  const robot = robotReason(split, mail.returnPath, house.listDomain, about.subject);
  if (robot !== undefined) {
    const reasons = [t("mail.itWasDiscarded", { robot })];
    const postId = await recordRefused(tx, { ...common, outcome: "dropped", reasons });
    return { ...part, result: "discarded", reasons, postId };
  }
  const { verdict } = await judge(tx, to, mail.account?.email ?? from.address, proof, {
    message: about,
  });
  const reasons = [
    ...(doubt === undefined ? [] : [doubt]),
    ...verdict.reasons.map(({ sentence }) => sentence),
  ];
  if (verdict.outcome === "goes out") {
    if (verdict.reaches === "members") {
      if (await takeInvitation(tx, to, taken))
        return { ...part, result: "goes out", reasons, postId: null };
      return { goesTo: to, recipient, reasons };
    }
    const { id, lists } = await acceptPost(tx, { ...common, reasons, reaches: verdict.reaches });
    return lists.length === 0
      ? { ...part, result: "repeated", reasons: [], postId: null }
      : { ...part, result: "to the leads", reasons, postId: id };
  }
  const postId = await recordRefused(tx, {
    ...common,
    outcome: verdict.outcome,
    reaches: verdict.reaches,
    reasons,
  });
  if (verdict.outcome === "held") await tell(tx, postId, to, verdict, taken);
  if (verdict.outcome !== "returned")
    return {
      ...part,
      result: verdict.outcome === "held" ? "held" : "discarded",
      reasons,
      postId,
    };
  return {
    ...part,
    postId,
    ...(await giveBack(tx, to, verdict, taken)),
  };
}

/** Sends one mail to all lists that let it out, so that each address gets it once. Returns what the mail was for each of its addresses, in their order. */
export async function sendTogether(
  tx: Queries,
  results: readonly (MailPart | GoesOut)[],
  taken: Omit<Taken, "proof">,
): Promise<MailPart[]> {
  const going = results.filter((one) => "goesTo" in one);
  const sent: { id: string; lists: readonly string[] } =
    going.length === 0
      ? { id: "", lists: [] }
      : await acceptPost(tx, {
          ...postOf(taken),
          lists: [...new Set(going.map(({ goesTo }) => goesTo.id))],
          reasons: [...new Set(going.flatMap(({ reasons }) => reasons))],
          reaches: "members",
        });
  return results.map((one) => {
    if (!("goesTo" in one)) return one;
    const part = { recipient: one.recipient, listId: one.goesTo.id };
    return sent.lists.includes(one.goesTo.id)
      ? { ...part, result: "goes out", reasons: one.reasons, postId: sent.id }
      : { ...part, result: "repeated", reasons: [], postId: null };
  });
}

/** What is stored of a mail as a post, whatever happens to it. */
function postOf({
  mail,
  messageRow,
  messageId,
  about,
  from,
  signatures,
}: Omit<Taken, "proof">): Omit<PostToAccept, "lists" | "reasons"> {
  return {
    messageRow,
    messageId,
    subject: about.subject,
    from,
    accountId: mail.account?.id ?? null,
    returnPath: canonicalAddress(mail.returnPath),
    about,
    signatures,
  };
}

function tell(
  tx: Queries,
  postId: string,
  list: List,
  { askSender }: Said<Verdict>,
  { house, from, about, isForged, url }: Taken,
): Promise<void> {
  return tellHeld(tx, {
    ...{ postId, list, house, from, url },
    subject: about.subject,
    askSender: askSender && !isForged,
  });
}

/**
 * Gives a mail back: by a note where it is certain that its sender gets that, else by the answer over SMTP, so that nobody
 * whose address was only used hears of it. One who signed in gets a note.
 */
async function giveBack(
  tx: Queries,
  to: List,
  verdict: Said<Verdict>,
  taken: Taken,
): Promise<Pick<MailPart, "result" | "reasons">> {
  const { mail, house, about, writtenName, messageId, isForged, isAnswerable } = taken;
  if (!isAnswerable || isForged) return { result: "refused", reasons: toldTo("", verdict, taken) };
  const reasons = toldTo(mail.returnPath, verdict, taken);
  if (await mayAnswer(tx, mail.returnPath))
    await sendNote(
      tx,
      { name: writtenName, address: canonicalAddress(mail.returnPath) },
      returnNote({
        subject: about.subject,
        list: `${to.title} (${to.name}@${house.listDomain})`,
        house: house.name,
        reasons,
      }),
      { inReplyTo: messageId },
    );
  return { result: "returned", reasons: verdict.reasons.map(({ sentence }) => sentence) };
}

/**
 * The reasons that may be told to an address. Where nothing proves that a mail is its From line's and the answer goes to another
 * address, it does not say who that is to the list: else anybody could ask in another's name.
 */
function toldTo(
  address: string,
  { reasons }: Said<Verdict>,
  { proof, from }: Pick<Taken, "proof" | "from">,
): string[] {
  const isTheirs = proof !== "none" || canonicalAddress(address) === from.address;
  return reasons
    .filter(({ rule }) => isTheirs || (rule !== "sender" && rule !== "also"))
    .map(({ sentence }) => sentence);
}

/** Mail to the leads of a list goes to them and nobody else: answers to posts, and questions. */
export async function takeForLeads(
  tx: Queries,
  to: List,
  recipient: string,
  taken: Taken,
): Promise<MailPart> {
  const { mail, split, messageId, about, house, doubt } = taken;
  const part = { recipient, listId: to.id };
  const common = {
    ...postOf(taken),
    messageId: `leads ${messageId}`,
    signatures: taken.signatures.map((signature) => `leads ${signature}`),
    lists: [to.id],
    reaches: "leads" as const,
  };
  const robot =
    robotReason(split, mail.returnPath, house.listDomain, about.subject) ??
    (about.looksLikeSpam && mail.account === undefined ? t("mail.aFilterOnTheWay") : undefined);
  if (robot !== undefined) {
    const reasons = [t("mail.itWasDiscarded", { robot })];
    const postId = await recordRefused(tx, { ...common, outcome: "dropped", reasons });
    return { ...part, result: "discarded", reasons, postId };
  }
  const reasons = [...(doubt === undefined ? [] : [doubt]), t("mail.itIsForTheLeads")];
  const { id, lists } = await acceptPost(tx, { ...common, reasons });
  return lists.length === 0
    ? { ...part, result: "repeated", reasons: [], postId: null }
    : { ...part, result: "to the leads", reasons, postId: id };
}

/** Whether a note may go to an address just now: not one after the other. */
export async function mayAnswer(tx: Queries, address: string): Promise<boolean> {
  if (address === "") return false;
  const notes = await countNotes(tx, address);
  return (notes?.count ?? 0) < NOTES_AN_HOUR;
}
