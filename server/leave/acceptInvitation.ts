import { orRefuse } from "../http/fault";
import { html } from "hono/html";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { t } from "../texts/t";
import { askedBy } from "./queries";
import { linkPage } from "../http/linkPage";
import { speakTo } from "../texts/familyLanguage";

/** Asks an address whether it wants to be on a list. */
export async function showInvitation(
  { db }: Context,
  http: FileRequest<"/yes/:token">,
): Promise<Response> {
  const found = await askedBy(db, http.req.param("token"));
  if (found !== undefined) await speakTo(db, found.address);
  if (found === undefined || found.answer === "withdrawn" || found.closedAt !== null)
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToAnswer")}</p>`),
      404,
    );
  if (found.answer === "yes")
    return http.html(
      linkPage(
        t("leave.youAreOn", { title: found.title }),
        html`<p>${t("leave.getsTheMailOfThis3", { address: found.address })}</p>`,
      ),
    );
  return http.html(
    linkPage(
      t("leave.beOn", { title: found.title }),
      html`<p>${t("leave.wouldGetTheMailOf", { address: found.address, house: found.house })}</p>
        <form method="post"><button>${t("leave.yesPutMeOnThis")}</button></form>`,
    ),
  );
}

/** Puts an address on a list that it was asked to join. */
export async function acceptInvitation(
  context: Context,
  http: FileRequest<"/yes/:token">,
): Promise<Response> {
  const { db } = context;
  const found = await askedBy(db, http.req.param("token"));
  if (found !== undefined) await speakTo(db, found.address);
  if (found === undefined || found.answer === "withdrawn" || found.closedAt !== null)
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToSay")}</p>`),
      404,
    );
  const { member } = orRefuse(await context.desk.run("answerAsk", { id: found.id }));
  return http.html(
    member
      ? linkPage(
          t("leave.youAreOn", { title: found.title }),
          html`<p>${t("leave.getsTheMailOfThis2", { address: found.address })}</p>`,
        )
      : linkPage(
          t("shared.thankYou"),
          html`<p>${t("leave.thisListIsNoLonger", { address: found.address })}</p>`,
        ),
  );
}
