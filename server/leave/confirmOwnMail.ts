import { html } from "hono/html";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { confirmHeld } from "../posting/decideHeld";
import { t } from "../texts/t";
import { findOwnMail } from "./queries";
import { linkBehind, takeLink } from "../posting/linkQueries";
import { linkPage } from "../http/linkPage";

/** Asks the writer of a mail that waits whether it is theirs. */
export async function showOwnMail(
  { db }: Context,
  http: FileRequest<"/mine/:token">,
): Promise<Response> {
  const found = await linkBehind(db, http.req.param("token"), "own mail");
  const [mail] = found === undefined ? [] : await findOwnMail(db, found.about);
  if (mail === undefined || mail.outcome !== "held")
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
      404,
    );
  return http.html(
    linkPage(
      t("leave.didYouWriteThis"),
      html`<p>
          ${t("leave.aMailInYourName", { title: mail.title, house: mail.house, subject: mail.subject })}
        </p>
        <form method="post"><button>${t("leave.yesIWroteIt")}</button></form>
        <p>${t("leave.ifYouDidNotThere")}</p>`,
    ),
  );
}

/** Confirms that a mail is its writer's, after which the list's rules decide again. */
export async function confirmOwnMail(
  { db }: Context,
  http: FileRequest<"/mine/:token">,
): Promise<Response> {
  const found = await takeLink(db, http.req.param("token"), "own mail");
  const outcome = found === undefined ? "decided" : await confirmHeld(db, found.about);
  if (outcome === "decided")
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
      404,
    );
  if (outcome === "goes out")
    return http.html(linkPage(t("shared.thankYou"), html`<p>${t("leave.yourMailIsOnIts")}</p>`));
  return http.html(
    linkPage(t("shared.thankYou"), html`<p>${t("leave.outcomeHeldALeadOr", { outcome })}</p>`),
  );
}
