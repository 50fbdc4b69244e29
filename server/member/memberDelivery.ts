import type { putHowOften, putPause } from "@amigo/contract/member";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { day } from "@amigo/language/message";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { setHowOften } from "../membership/setHowOften";
import { t } from "../texts/t";
import { loadHouse } from "../db/houseQueries";
import { endPause, storePause } from "./queries";
import { findOwnOpenList } from "./findOwnOpenList";

/** Returns how often the mail of one list comes. */
export async function chooseHowOften(
  { db }: Context,
  { params, body, member }: Request<typeof putHowOften>,
): Promise<Answer<typeof putHowOften>> {
  const membership = orRefuse(await findOwnOpenList(db, params.id, member));
  await setHowOften(db, { id: null, name: member }, membership.id, member, body.howOften);
  return { done: true as const };
}

/** Pauses the mail of lists until a day is over; empty resumes it. */
export async function pauseMail(
  { db }: Context,
  { body, member }: Request<typeof putPause>,
): Promise<Answer<typeof putPause>> {
  const house = await loadHouse(db);
  if (body.until !== "" && body.until < dayIn(house?.timeZone ?? "UTC", new Date()))
    throw new Refusal(422, "member/pause", t("member.thatDayIsOverChoose"), "until");
  if (body.until === "") await endPause(db, member);
  else await storePause(db, member, body.until);
  await record(db, {
    actor: member,
    action: "pause",
    sentence: () =>
      body.until === ""
        ? t("member.getsMailOfListsAgain", { member })
        : t("member.getsNoMailOfLists", { member, until: day(body.until) }),
  });
  return { done: true as const };
}
