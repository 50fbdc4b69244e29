import { refuse } from "../http/fault";
import type { postIntake } from "@amigo/contract/intakes";
import type { Context } from "../context";
import { notify } from "../events/events";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { checkLists } from "./checkLists";
import { nameTaken } from "./nameTaken";
import { storePeople } from "./storePeople";
import { storeIntake } from "./intakeQueries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Makes an intake. */
export async function makeIntake(
  { db }: Context,
  { body, caller }: Request<typeof postIntake>,
): Promise<Answer<typeof postIntake>> {
  const seasonId = (await needCurrentSeason(db)).id;
  refuse(await checkLists(db, caller, seasonId, body.content));
  return db.transaction(async (tx) => {
    const made = await storeIntake(tx, seasonId, caller.id, body.content);
    if (made === undefined) refuse(nameTaken(body.content.name));
    refuse(await storePeople(tx, made.id, body.people));
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "make intake",
      sentence: () =>
        t("intakes.madeTheAdditionsSheet", {
          name: caller.name,
          sheet: body.content.name,
        }),
      after: { intake: made.id, ...body },
    });
    await notify(tx, "intakes");
    return { id: made.id };
  });
}
