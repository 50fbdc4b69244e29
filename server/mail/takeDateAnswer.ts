import { say } from "@amigo/language/say";
import { readReply } from "@amigo/core/calendar/readReply";
import { answerInvitation } from "../calendar/answerInvitation";
import { findInvited } from "../calendar/guestQueries";
import type { Queries } from "../db/connect";
import { sendNote } from "../posting/sendNote";
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
  const over =
    said?.answer === undefined
      ? undefined
      : await answerInvitation(tx, invited, {
          answer: said.answer,
          people: invited.guest.people,
          word: said.word === "" ? invited.guest.word : said.word,
        });
  if (said?.answer !== undefined && over === undefined) return;
  // A program's automatic mail, an out-of-office note for one, is no answer, and gets none.
  if (isRobot(taken) || taken.isForged) return;
  const { title } = invited.date;
  await sendNote(
    tx,
    { name: "", address: invited.guest.address },
    {
      subject: t("dates.programAnswered", { title }),
      text:
        over === undefined
          ? [
              t("dates.programCantBeRead", { title }),
              "",
              `${taken.url}/date/${invited.guest.token}`,
            ].join("\r\n")
          : say(over.detail),
    },
    { inReplyTo: taken.messageId },
  );
}
