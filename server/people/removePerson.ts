import type { postForget } from "@amigo/contract/people";
import { fold } from "@amigo/core/text/fold";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { leftPeople } from "./queries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Removes the personal data of somebody who left, for good; counts stay. */
export async function removePerson(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postForget>,
): Promise<Answer<typeof postForget>> {
  const [found] = await leftPeople(db, (await needCurrentSeason(db)).id, "", params.id);
  if (found !== undefined && fold(found.name) !== fold(body.name))
    throw new Refusal(
      422,
      "people/name",
      t("people.typeTheNameAsIt", { name: found.name }),
      "name",
    );
  return orRefuse(await desk.run("forgetPerson", { actor: actorOf(caller), person: params.id }));
}
