import { say } from "@amigo/language/say";
import { readReply, type Reply } from "@amigo/core/calendar/readReply";
import { answerInvitation } from "../calendar/answerInvitation";
import { findInvited, storeProposal, type Invited } from "../calendar/guestQueries";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { sendFamilyNote } from "../posting/sendNote";
import { Refused } from "../refused";
import { t } from "../texts/t";
import { isRobot } from "./answerList";
import type { Taken } from "./incomingMail";

/**
 * The answer of a guest's calendar program to an invitation (RFC 6047). The address that it comes to holds the guest's secret, so
 * it is theirs whatever the mail says of its sender. What can't be read is asked for again, by a link.
 */
export async function takeDateAnswer(tx: Queries, token: string, taken: Taken): Promise<void> {
  const invited = await findInvited(tx, token);
  if (invited === undefined) return;
  const read = readReply(taken.about.calendar, taken.house.timeZone);
  const said = read.ok && read.reply.uid === invited.date.uid ? read.reply : undefined;
  const over = said === undefined ? undefined : await takeReply(tx, token, invited, said);
  if (said !== undefined && isComplete(said) && !(over instanceof Refused)) return;
  // A program's automatic mail, an out-of-office note for one, is no answer, and gets none.
  if (isRobot(taken) || taken.isForged) return;
  const { title } = invited.date;
  await sendFamilyNote(
    tx,
    { name: "", address: invited.guest.address },
    () => ({
      subject: t("dates.programAnswered", { title }),
      text:
        over instanceof Refused
          ? say(over.detail)
          : [
              t("dates.programCantBeRead", { title }),
              "",
              `${taken.url}/date/${invited.guest.token}`,
            ].join("\r\n"),
    }),
    { inReplyTo: taken.messageId },
  );
}

/** Whether a reply says anything that can be kept. */
function isComplete({ answer, proposes }: Reply): boolean {
  return answer !== undefined || proposes !== undefined;
}

/** Keeps what a calendar program says for its owner: an answer, or another time that they propose, or both. */
async function takeReply(
  tx: Queries,
  token: string,
  { guest }: Invited,
  { answer, proposes, word }: Reply,
): Promise<unknown> {
  const taken =
    answer === undefined
      ? undefined
      : await answerInvitation(
          tx,
          token,
          { answer, people: guest.people, word: word === "" ? guest.word : word },
          false,
        );
  if (proposes === undefined || taken instanceof Refused) return taken;
  await storeProposal(tx, guest.id, proposes, word.slice(0, 500));
  await notify(tx, "dates");
  return taken;
}
