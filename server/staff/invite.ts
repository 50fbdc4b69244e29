import type { postInviteAgain } from "@amigo/contract/staff";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { notify } from "../events/events";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { makeLink } from "../posting/mailLink";
import { sendNote } from "../posting/sendNote";
import { t } from "../texts/t";
import { loadHouse } from "../db/houseQueries";
import { useUpInvitations } from "./queries";
import { findChangeableAccount } from "./findChangeableAccount";

/** How long mailed links are good, in hours. */
const INVITED_HOURS = 14 * 24;

export async function invite(
  context: Context,
  id: string,
  name: string,
  email: string,
  by: Caller,
): Promise<void> {
  const { db, settings } = context;
  await db.transaction(async (tx) => {
    const house = await loadHouse(tx);
    const token = await makeLink(tx, {
      purpose: "invitation",
      address: email,
      about: id,
      hours: INVITED_HOURS,
    });
    const text = (): string =>
      [
        t("shared.hello", { name }),
        "",
        t("staff.invitesYouToAmigoWhich", {
          name: by.name,
          school: house?.name ?? t("staff.theHouse"),
        }),
        "",
        t("staff.chooseAPasswordHereAnd"),
        `${settings.url}/password/${token}`,
        "",
        t("staff.theLinkWorksOnceFor3"),
      ].join("\r\n");
    await sendNote(tx, { name, address: email }, () => ({
      subject: t("staff.invitesYouToTheLists", {
        name: by.name,
        school: house?.name ?? t("staff.theHouse"),
      }),
      text: text(),
    }));
    await notify(tx, "house");
  });
}

/** Mails the invitation once more; the older link stops working. */
export async function inviteAgain(
  context: Context,
  { params, caller }: Request<typeof postInviteAgain>,
): Promise<Answer<typeof postInviteAgain>> {
  const { db } = context;
  const row = orRefuse(await findChangeableAccount(db, params.id, caller));
  if (row.passwordHash !== "")
    throw new Refusal(
      409,
      "account/in-use",
      t("staff.hasChosenAPasswordAlready", { name: row.name }),
    );
  await useUpInvitations(db, row.id);
  await invite(context, row.id, row.name, row.email, caller);
  return { done: true as const };
}
