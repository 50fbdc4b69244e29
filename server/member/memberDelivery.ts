import { eq } from "drizzle-orm";
import { type putHowOften, type putPause } from "@amigo/contract/member";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { day } from "@amigo/language/message";
import type { Context } from "../context";
import { house } from "../db/schema/house";
import { pause } from "../db/schema/members";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../journal/record";
import { setHowOften } from "../membership/setHowOften";
import { t } from "../texts/t";
import { listOn } from "./listOn";

export async function chooseHowOften(
  { db }: Context,
  { params, body, member }: Request<typeof putHowOften>,
): Promise<Answer<typeof putHowOften>> {
  const own = await listOn(db, params.id, member);
  await setHowOften(db, { id: null, name: member }, own.id, member, body.howOften);
  return { done: true as const };
}

export async function pauseMail(
  { db }: Context,
  { body, member }: Request<typeof putPause>,
): Promise<Answer<typeof putPause>> {
  const [own] = await db.select({ timeZone: house.timeZone }).from(house);
  if (body.until !== "" && body.until < dayIn(own?.timeZone ?? "UTC", new Date()))
    throw new Refusal(422, "member/pause", t("member.thatDayIsOverChoose"), "until");
  if (body.until === "") await db.delete(pause).where(eq(pause.address, member));
  else
    await db
      .insert(pause)
      .values({ address: member, until: body.until })
      .onConflictDoUpdate({ target: pause.address, set: { until: body.until } });
  await record(db, {
    actor: member,
    action: "pause",
    sentence:
      body.until === ""
        ? t("member.getsMailOfListsAgain", { member })
        : t("member.getsNoMailOfLists", { member, until: day(body.until) }),
  });
  return { done: true as const };
}
