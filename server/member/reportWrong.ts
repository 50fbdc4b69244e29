import { type postWrong } from "@amigo/contract/member";
import { oneHeaderLine } from "@amigo/core/mail/headerText";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { record } from "../events/record";
import { sendNote } from "../posting/sendNote";
import { t } from "../texts/t";
import { personAt } from "./memberLists";
import { listCoordinators } from "../accounts/queries";

const WORDS_A_DAY = 10;

/** Tells the coordinators that something the house has is wrong. */
export async function reportWrong(
  { db, settings }: Context,
  { body, member }: Request<typeof postWrong>,
): Promise<Answer<typeof postWrong>> {
  if (!(await isWithinTries(db, `word of ${member}`, WORDS_A_DAY, 1440)))
    throw new Refusal(429, "member/words", t("member.youHaveToldALot"));
  await db.transaction(async (tx) => {
    const person = await personAt(tx, member);
    const about = oneHeaderLine(body.about);
    const who = person === undefined ? member : `${person.name} (${member})`;
    const coordinators = await listCoordinators(tx);
    for (const { name, email } of coordinators)
      await sendNote(tx, { name, address: email }, () => ({
        subject: t("member.wrongSays", { who, about }),
        text: [
          t("member.saysThatThisIsWrong", { who, about }),
          "",
          ...body.text.split(/\r?\n/).map((line) => `> ${line}`),
          "",
          ...(person === undefined
            ? []
            : [`${settings.url}/people/${encodeURIComponent(person.id)}`]),
        ].join("\r\n"),
      }));
    await record(tx, {
      actor: member,
      action: "says it is wrong",
      sentence: () => t("member.saysThatThisIsWrong", { who, about }),
    });
  });
  return { done: true as const };
}
