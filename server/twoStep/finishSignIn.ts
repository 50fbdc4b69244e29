import { refuse } from "../http/fault";
import type { Context as HonoContext } from "hono";
import { beginSession } from "../accounts/beginSession";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import type { account } from "../db/schema/accounts";
import { record } from "../events/record";
import { t } from "../texts/t";
import { takeStep } from "./queries";
import { ranOut } from "./ranOut";

export type Owner = Pick<typeof account.$inferSelect, "id" | "name" | "email">;

export async function finishSignIn(
  settings: Context["settings"],
  tx: Queries,
  http: HonoContext,
  token: string,
  who: Owner,
  by: string,
): Promise<void> {
  if (!(await takeStep(tx, token, "sign-in"))) refuse(ranOut());
  await beginSession({ db: tx, settings }, http, who.id);
  await record(tx, {
    actorId: who.id,
    actor: who.name,
    action: "sign in",
    sentence: () => t("twoStep.signedInWith", { name: who.name, by }),
  });
}
