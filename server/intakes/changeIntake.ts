import type { putIntake } from "@amigo/contract/intakes";
import type { Context } from "../context";
import { isTaken } from "../db/isTaken";
import { notify } from "../events/events";
import { refusalOf, orRefuse, refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { checkLists } from "./checkLists";
import { nameTaken } from "./nameTaken";
import { loadIntake } from "./queries";
import { storePeople } from "./storePeople";
import { changeIntakeContent, removeIntakePeople } from "./intakeQueries";

/** Changes what an intake is for and who fills it. */
export async function changeIntake(
  { db }: Context,
  { params, body, caller }: Request<typeof putIntake>,
): Promise<Answer<typeof putIntake>> {
  const before = orRefuse(await loadIntake(db, params.id, caller));
  if (!before.may.change)
    throw new Refusal(403, "intake/change", t("intakes.onlyWhoeverMadeThisSheet"));
  refuse(await checkLists(db, caller, before.seasonId, body.content));
  return db.transaction(async (tx) => {
    const [item] = await changeIntakeContent(tx, body.content, body.version, before.id).catch(
      (failure: unknown) => {
        throw isTaken(failure) ? refusalOf(nameTaken(body.content.name)) : failure;
      },
    );
    if (item === undefined)
      throw new Refusal(409, "intake/changed", t("intakes.somebodyElseChangedThisSheet"));
    await removeIntakePeople(tx, before.id);
    refuse(await storePeople(tx, before.id, body.people));
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change intake",
      sentence: () =>
        t("intakes.changedTheAdditionsSheet", {
          name: caller.name,
          sheet: body.content.name,
        }),
      before: { content: before.content },
      after: { intake: before.id, content: body.content, people: body.people },
    });
    await notify(tx, "intakes");
    return { version: item.version };
  });
}
