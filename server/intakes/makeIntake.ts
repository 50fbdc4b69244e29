import { type postIntake } from "@amigo/contract/intakes";
import type { Context } from "../context";
import { intake } from "../db/schema/intakes";
import { notify } from "../events/events";
import type { Request, Answer } from "../http/handler";
import { record } from "../journal/record";
import { t } from "../texts/t";
import { checkLists } from "./checkLists";
import { currentSeason } from "./currentSeason";
import { nameTaken } from "./nameTaken";
import { nextAt } from "./nextAt";
import { storePeople } from "./storePeople";

export async function makeIntake(
  { db }: Context,
  { body, caller }: Request<typeof postIntake>,
): Promise<Answer<typeof postIntake>> {
  const seasonId = await currentSeason(db);
  await checkLists(db, caller, seasonId, body.content);
  return db.transaction(async (tx) => {
    const [made] = await tx
      .insert(intake)
      .values({
        seasonId,
        accountId: caller.id,
        name: body.content.name,
        content: body.content,
        nextAt: await nextAt(tx, body.content),
      })
      .onConflictDoNothing()
      .returning({ id: intake.id });
    if (made === undefined) throw nameTaken(body.content.name);
    await storePeople(tx, made.id, body.people);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "make intake",
      sentence: t("intakes.madeTheAdditionsSheet", {
        name: caller.name,
        sheet: body.content.name,
      }),
      after: { intake: made.id, ...body },
    });
    await notify(tx, "intakes");
    return { id: made.id };
  });
}
