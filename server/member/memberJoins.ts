import type { postMemberJoin } from "@amigo/contract/member";
import type { Context } from "../context";
import { notify } from "../events/events";
import { refuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { sendNote } from "../posting/sendNote";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { memberLists } from "./memberLists";
import { listLeadsOf } from "../membership/queries";
import { waitForLead } from "../membership/greetingQueries";

/** Puts a member onto a list, or asks its leads. */
export async function joinList(
  { db, desk, settings }: Context,
  { params, member }: Request<typeof postMemberJoin>,
): Promise<Answer<typeof postMemberJoin>> {
  const found = (await memberLists(db, member)).open.find(({ id }) => id === params.id);
  if (found === undefined || found.how === "no") throw notFound("list");
  if (found.how === "join") {
    refuse(
      await desk.run("keepAddress", {
        actor: { id: null, name: member },
        keep: {
          listId: found.id,
          address: member,
          side: "on",
          reason: inStaffLanguage(() => t("member.cameOntoItOnThe")),
          lastDay: "",
        },
      }),
    );
    return { member: true };
  }
  await db.transaction(async (tx) => {
    await waitForLead(tx, {
      listId: found.id,
      addresses: [member],
      by: member,
      reason: inStaffLanguage(() => t("member.asksToComeOntoIt")),
      lastDay: "",
    });
    await record(tx, {
      actor: member,
      action: "ask to join",
      listId: found.id,
      sentence: () => t("member.asksToComeOntoThis", { member }),
    });
    const leads = await listLeadsOf(tx, found.id);
    for (const { name, email } of leads)
      await sendNote(tx, { name, address: email }, () => ({
        subject: t("member.asksToComeOnto", { member, title: found.title }),
        text: [
          t("shared.hello", { name }),
          "",
          t("member.asksToComeOntoAgree", { member, title: found.title }),
          `${settings.url}/lists/${found.id}`,
        ].join("\r\n"),
      }));
    await notify(tx, "board");
  });
  return { member: false };
}
