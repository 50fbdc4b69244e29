import { canonicalAddress } from "@amigo/core/address/domainName";
import { refuse } from "../http/fault";
import { say } from "@amigo/language/say";
import { automaticAnswer } from "@amigo/core/mail/bounces/forms/automaticAnswer";
import { aboutListNote, houseMailNote, leaveNote } from "@amigo/core/mail/requestNotes";
import { robotReason } from "@amigo/core/mail/robots";
import { ruleSentences } from "@amigo/core/posting/ruleSentences";
import { capital } from "@amigo/core/text/sentence";
import type { Queries } from "../db/connect";
import { record } from "../events/record";
import { makeLink } from "../posting/mailLink";
import { sendFamilyNote, sendNote } from "../posting/sendNote";
import { takeComplaint } from "./takeComplaint";
import { takeReport } from "./takeReport";
import { mayAnswer } from "./takePost";
import { t } from "../texts/t";
import type { Taken } from "./incomingMail";
import type { list } from "../db/schema/lists";
import { findAsk, leadsOf } from "./queries";
import { listCoordinators } from "../accounts/queries";
import { findMembership } from "../membership/queries";

type List = typeof list.$inferSelect;

const HOURS_TO_CONFIRM = 72;
/** The field by which mail that was passed on to the coordinators is known again. */
const SEEN = "Amigo-Seen";

/** Whether a mail is a program's, which is never answered and never counts as anybody's word (RFC 3834). */
export function isRobot({
  split,
  mail,
  house,
  about,
}: Pick<Taken, "split" | "mail" | "house" | "about">): boolean {
  return (
    robotReason(split, mail.returnPath, house.listDomain, about.subject) !== undefined ||
    automaticAnswer.read({
      split,
      returnPath: mail.returnPath,
      subject: about.subject,
      text: about.text,
      report: "",
    }) !== undefined
  );
}

/** Mail to `list-request` is answered with what the list is, whom to ask, how to leave (RFC 2142, section 6). */
export async function answerRequest(tx: Queries, of: List, taken: Taken): Promise<void> {
  const { house, mail, writtenName, messageId, url, isForged, isAnswerable } = taken;
  if (isRobot(taken) || isForged || !isAnswerable || !(await mayAnswer(tx, mail.returnPath)))
    return;
  const address = `${of.name}@${house.listDomain}`;
  const leads = await leadsOf(tx, of.id);
  const note = aboutListNote({
    title: of.title,
    address,
    description: of.description,
    house: house.name,
    sentences: ruleSentences({ ...of.rules, also: "" })
      .slice(0, 1)
      .map((sentence) => capital(say(sentence))),
    leads:
      leads.length === 0
        ? []
        : [
            t("mail.writeToLeads", {
              leads: leads.join(", "),
              name: of.name,
              listDomain: house.listDomain,
            }),
          ],
    leave: of.rules.leaving === "by oneself" ? `${of.name}+leave@${house.listDomain}` : "",
    page: `${url}/member`,
  });
  await sendNote(tx, { name: writtenName, address: canonicalAddress(mail.returnPath) }, note, {
    inReplyTo: messageId,
  });
}

/**
 * Mail to `list+leave` takes its sender off where they have signed in for it. Everybody else is asked back: who has the sender's
 * mailbox can answer, and nobody who only sends in their name.
 */
export async function takeLeave(tx: Queries, of: List, taken: Taken): Promise<void> {
  const { house, from, messageId, proof, url, isForged } = taken;
  if (isRobot(taken) || isForged || !(await mayAnswer(tx, from.address))) return;
  const about = { title: of.title, house: house.name };
  const on = await findMembership(tx, of.id, from.address);
  const tell = (note: ReturnType<typeof leaveNote>, replyTo?: string): Promise<void> =>
    sendFamilyNote(tx, from, () => note, {
      inReplyTo: messageId,
      ...(replyTo === undefined ? {} : { replyTo }),
    });
  // Whether an address is on a list is told to its owner alone; the answer goes there and nowhere else. Who isn't on it and is not proven to have written hears nothing.
  if (on === undefined && proof === "none") return;
  if (on === undefined) return tell(leaveNote(about, { is: "not on it" }));
  if (of.closedAt !== null) return tell(leaveNote(about, { is: "closed" }));
  if (of.rules.leaving !== "by oneself")
    return tell(
      leaveNote(about, { is: "through a lead", leads: [`${of.name}+leads@${house.listDomain}`] }),
    );
  if (proof !== "signed-in") {
    const token = await makeLink(tx, {
      purpose: "leave",
      address: from.address,
      about: of.id,
      hours: HOURS_TO_CONFIRM,
      plain: true,
    });
    return tell(
      leaveNote(about, { is: "confirm", address: from.address, url: `${url}/leave/yes/${token}` }),
      `${of.name}+yes.${token}@${house.listDomain}`,
    );
  }
  const { address, name } = from;
  taken.after.push(async ({ desk }) => {
    refuse(
      await desk.run("leaveList", {
        leaving: { listId: of.id, address, reason: t("posting.leftByMail") },
        mail: { name, messageId },
      }),
    );
  });
}

/** An answer to a question that was mailed: its address holds the secret, so it is its owner's word. A program's answer is none. */
export async function takeConfirmation(tx: Queries, token: string, taken: Taken): Promise<void> {
  if (isRobot(taken)) return;
  const asked = await findAsk(tx, token);
  if (asked !== undefined) {
    if (asked.answer === null)
      taken.after.push(async ({ desk }) => {
        refuse(await desk.run("answerAsk", { id: asked.id }));
      });
    return;
  }
  const { messageId } = taken;
  taken.after.push(async ({ desk }) => {
    refuse(await desk.run("leaveByLink", { token, mail: { name: "", messageId } }));
  });
}

/**
 * Mail to postmaster or abuse goes on to the coordinators as an attachment of a note of Amigo's own (RFC 2142, RFC 5321 section
 * 4.5.1), so that nothing leaves here in a stranger's name. What went on once is not passed on again.
 */
export async function takeForHouse(
  tx: Queries,
  mailbox: "postmaster" | "abuse",
  taken: Taken,
): Promise<void> {
  const { mail, split, from, house, about, messageId } = taken;
  const isSeen = split.fields.some(({ name }) => name === SEEN.toLowerCase());
  const who = from.name || from.address || "nobody";
  await record(tx, {
    actor: from.name || from.address || "somebody",
    action: isSeen ? "dropped" : "house mail",
    sentence: () =>
      t("mail.mailToOf", { mailbox, who, subject: about.subject, seenBefore: isSeen }),
  });
  if (isSeen || (await takeReport(tx, taken.report, taken))) return;
  const complains = await takeComplaint(tx, taken);
  const coordinators = await listCoordinators(tx);
  for (const { name, email } of coordinators)
    await sendNote(
      tx,
      { name, address: email },
      houseMailNote({
        mailbox: `${mailbox}@${house.listDomain}`,
        from: from.name === "" ? who : `${from.name} (${from.address})`,
        subject: about.subject,
        house: house.name,
        complains,
      }),
      { inReplyTo: messageId, attached: mail.raw, fields: { [SEEN]: house.listDomain } },
    );
}
