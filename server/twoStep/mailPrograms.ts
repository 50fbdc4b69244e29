import { sql, and, eq, isNull } from "drizzle-orm";
import { type postMailProgram, type deleteMailProgram } from "@amigo/contract/twoStep";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { confirmPassword } from "../accounts/confirmPassword";
import { makeToken, hashToken } from "../callers/tokens";
import type { Context } from "../context";
import { apiToken } from "../db/schema/accounts";
import { house } from "../db/schema/house";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../journal/record";
import { t } from "../texts/t";
import { MAIL_PASSWORD, MAIL_PASSWORD_DAYS } from "./mailPassword";
import { mailProgramsOf } from "./queries";
import { tellChange } from "./tellChange";

const MOST_MAIL_PROGRAMS = 20;

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
    const [own] = await tx.select({ timeZone: house.timeZone }).from(house);
    await tx.insert(apiToken).values({
      name: body.name,
      tokenHash: hashToken(password),
      accountId: caller.id,
      scopes: ["send"],
      lastDay: dayIn(
        own?.timeZone ?? "UTC",
        new Date(Date.now() + MAIL_PASSWORD_DAYS * 86_400_000),
      ),
      forMailProgram: true,
    });
    await tellChange(settings, tx, caller, t("twoStep.aPasswordForTheMail", { name: body.name }));
  });
  return { password };
}

export async function removeMailProgram(
  { db }: Context,
  { params, caller }: Request<typeof deleteMailProgram>,
): Promise<Answer<typeof deleteMailProgram>> {
  const [gone] = await db
    .update(apiToken)
    .set({ revokedAt: sql`now()` })
    .where(
      and(
        eq(apiToken.id, params.id),
        eq(apiToken.accountId, caller.id),
        eq(apiToken.forMailProgram, true),
        isNull(apiToken.revokedAt),
      ),
    )
    .returning({ name: apiToken.name });
  if (gone === undefined) throw notFound("password");
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "change sign-in",
    sentence: t("twoStep.endedThePasswordOfThe", { name: caller.name, program: gone.name }),
  });
  return { done: true as const };
}
