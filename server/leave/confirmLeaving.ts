import { orRefuse } from "../http/fault";
import { html } from "hono/html";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { t } from "../texts/t";
import { findListToLeave } from "./queries";
import { linkBehind } from "../posting/linkQueries";
import { closedPage, linkPage } from "../http/linkPage";
import { speakTo } from "../texts/familyLanguage";

/** Asks whoever wrote to leave a list to confirm it. */
export async function showLeaveRequest(
  { db }: Context,
  http: FileRequest<"/leave/yes/:token">,
): Promise<Response> {
  const found = await linkBehind(db, http.req.param("token"), "leave");
  if (found !== undefined) await speakTo(db, found.address);
  const [of] = found === undefined ? [] : await findListToLeave(db, found.about);
  if (found === undefined || of === undefined)
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToConfirm")}</p>`),
      404,
    );
  return http.html(
    linkPage(
      t("leave.leave", { title: of.title }),
      html`<p>${t("leave.getsTheMailOfThis", { address: found.address, house: of.house })}</p>
        <form method="post"><button>${t("leave.leaveThisList")}</button></form>`,
    ),
  );
}

/** Takes an address off a list by its confirmed mail. */
export async function confirmLeaving(
  context: Context,
  http: FileRequest<"/leave/yes/:token">,
): Promise<Response> {
  const left = orRefuse(await context.desk.run("leaveByLink", { token: http.req.param("token") }));
  if (left.is === "no link")
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToConfirm")}</p>`),
      404,
    );
  await speakTo(context.db, left.address);
  return http.html(
    left.is === "closed"
      ? closedPage(left.title)
      : linkPage(
          t("leave.youHaveLeftTheList"),
          html`<p>${t("leave.getsNoMoreMailFrom2", { address: left.address })}</p>`,
        ),
  );
}
