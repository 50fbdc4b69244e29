import { type postMailProgram, type deleteMailProgram } from "@amigo/contract/twoStep";
import { confirmPassword } from "../accounts/confirmPassword";
import { makeToken } from "../callers/tokens";
import type { Context } from "../context";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { MAIL_PASSWORD } from "./mailPassword";
import { mailProgramsOf, storeMailPassword, revokeMailPassword } from "./queries";
import { tellChange } from "./tellChange";
import { loadHouse } from "../db/houseQueries";

const MOST_MAIL_PROGRAMS = 20;

/** Makes a password for one program; it is shown this once. */
export async function addMailProgram(
  context: Context,
  { body, caller, http }: Request<typeof postMailProgram>,
): Promise<Answer<typeof postMailProgram>> {
  const { db, settings } = context;
  await confirmPassword(context, http, caller, body.password, "password");
  if ((await mailProgramsOf(db, caller.id)).length >= MOST_MAIL_PROGRAMS)
    throw new Refusal(
      409,
      "mail-program/many",
      t("twoStep.anAccountCanHaveOf", { most: MOST_MAIL_PROGRAMS }),
    );
  const password = `${MAIL_PASSWORD}${makeToken()}`;
  await db.transaction(async (tx) => {
    const house = await loadHouse(tx);
    await storeMailPassword(tx, body, password, caller.id, house?.timeZone);
    await tellChange(settings, tx, caller, (whose) =>
      t("twoStep.aPasswordForTheMail", { name: body.name, whose }),
    );
  });
  return { password };
}

/** Ends the password of a mail program. */
export async function removeMailProgram(
  { db }: Context,
  { params, caller }: Request<typeof deleteMailProgram>,
): Promise<Answer<typeof deleteMailProgram>> {
  const gone = await revokeMailPassword(db, params.id, caller.id);
  if (gone === undefined) throw notFound("password");
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "change sign-in",
    sentence: () => t("twoStep.endedThePasswordOfThe", { name: caller.name, program: gone.name }),
  });
  return { done: true as const };
}
