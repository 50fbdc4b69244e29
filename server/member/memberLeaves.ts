import type { postMemberLeave } from "@amigo/contract/member";
import type { Context } from "../context";
import { refuse, orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { findOwnOpenList } from "./findOwnOpenList";

/** Leaves a list, where its rules let members. */
export async function leaveList(
  { db, desk }: Context,
  { params, member }: Request<typeof postMemberLeave>,
): Promise<Answer<typeof postMemberLeave>> {
  const membership = orRefuse(await findOwnOpenList(db, params.id, member));
  if (membership.rules.leaving !== "by oneself")
    throw new Refusal(403, "member/leave", t("member.toLeaveThisListAsk"));
  refuse(
    await desk.run("leaveList", {
      leaving: {
        listId: membership.id,
        address: member,
        reason: inStaffLanguage(() => t("member.leftOnTheMemberPage")),
      },
    }),
  );
  return { done: true as const };
}
