import type { Said } from "@amigo/language/say";
import { returnNote } from "@amigo/core/mail/returnNote";
import { robotReason } from "@amigo/core/mail/robots";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import type { Verdict } from "@amigo/core/posting/verdict";
import type { Queries } from "../db/connect";
import { acceptPost, recordRefused } from "../posting/acceptPost";
import { judge } from "../posting/judge";
import { sendNote } from "../posting/sendNote";
import { tellHeld } from "../posting/tellHeld";
import { t } from "../texts/t";
import type { Taken } from "./incomingMail";
import type { list } from "../db/schema/lists";
import { takeInvitation } from "./takeInvitation";
import { countNotes } from "./queries";

type List = typeof list.$inferSelect;

/** How many notes an hour may go to one address, so that nobody is flooded in another's name. */
const NOTES_AN_HOUR = 6;

/** Takes a mail for the members of a list: it goes out, is held, goes back or is dropped, as the rules have it. */
export async function takePost(tx: Queries, to: List, taken: Taken): Promise<void> {
  const { mail, split, messageId, messageRow, from, proof, isForged, about, url, house } = taken;
  const { subject } = about;
  const common = {
    messageRow,
    messageId,
    subject,
    from,
    accountId: mail.account?.id ?? null,
    lists: [to.id],
    returnPath: mail.returnPath.toLowerCase(),
    about,
  };
  const robot = robotReason(split, mail.returnPath, house.listDomain);
  if (robot !== undefined) {
    await recordRefused(tx, {
      ...common,
      outcome: "dropped",
      reasons: [t("mail.itWasDiscarded", { robot })],
    });
    return;
  }
  const { verdict } = await judge(tx, to, mail.account?.email ?? from.address, proof, {
    message: about,
  });
  const reasons = verdict.reasons.map(({ sentence }) => sentence);
  if (verdict.outcome === "goes out") {
    if (verdict.reaches === "members" && (await takeInvitation(tx, to, taken))) return;
    await acceptPost(tx, { ...common, reasons, reaches: verdict.reaches });
    return;
  }
  const postId = await recordRefused(tx, {
    ...common,
    outcome: verdict.outcome,
    reaches: verdict.reaches,
    reasons,
  });
  if (verdict.outcome === "held")
    await tellHeld(tx, {
      postId,
      list: to,
      house,
      from,
      subject,
      askSender: verdict.askSender && !isForged,
      url,
    });
  if (verdict.outcome === "returned" && !isForged && (await mayAnswer(tx, mail.returnPath))) {
    const note = returnNote({
      subject,
      list: `${to.title} (${to.name}@${house.listDomain})`,
      house: house.name,
      reasons: toldTo(mail.returnPath, from.address, proof, verdict),
    });
    await sendNote(tx, { name: from.name, address: mail.returnPath.toLowerCase() }, note, {
      inReplyTo: messageId,
    });
  }
}

/**
 * The reasons that a note may tell. Where nothing proves that a mail is its From line's and the note goes to another
 * address, it does not say who that is to the list: else anybody could ask in another's name.
 */
function toldTo(
  returnPath: string,
  from: string,
  proof: Proof,
  { reasons }: Said<Verdict>,
): string[] {
  const isTheirs = proof !== "none" || returnPath.toLowerCase() === from;
  return reasons
    .filter(({ rule }) => isTheirs || (rule !== "sender" && rule !== "also"))
    .map(({ sentence }) => sentence);
}

/** Mail to the leads of a list goes to them and nobody else: answers to posts, and questions. */
export async function takeForLeads(
  tx: Queries,
  to: List,
  { mail, split, messageId, messageRow, from, about, house }: Taken,
): Promise<void> {
  const common = {
    messageRow,
    messageId: `leads ${messageId}`,
    subject: about.subject,
    from,
    accountId: mail.account?.id ?? null,
    lists: [to.id],
    returnPath: mail.returnPath.toLowerCase(),
    reaches: "leads" as const,
    about,
  };
  const robot =
    robotReason(split, mail.returnPath, house.listDomain) ??
    (about.looksLikeSpam && mail.account === undefined ? t("mail.aFilterOnTheWay") : undefined);
  if (robot === undefined)
    await acceptPost(tx, { ...common, reasons: [t("mail.itIsForTheLeads")] });
  else
    await recordRefused(tx, {
      ...common,
      outcome: "dropped",
      reasons: [t("mail.itWasDiscarded", { robot })],
    });
}

/** Whether a note may go to an address just now: not one after the other. */
export async function mayAnswer(tx: Queries, address: string): Promise<boolean> {
  if (address === "") return false;
  const notes = await countNotes(tx, address);
  return (notes?.count ?? 0) < NOTES_AN_HOUR;
}
