import { orRefuse } from "../http/fault";
import { html } from "hono/html";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import type { FileRequest } from "../http/handler";
import { readForm } from "../http/readForm";
import { decideHeld } from "../posting/decideHeld";
import { showMessage } from "../posting/showMessage";
import { t } from "../texts/t";
import { findDecider, findHeldMail } from "./queries";
import type { HeldDecision } from "../posting/queries";
import { linkBehind, takeLink } from "../posting/linkQueries";
import { linkPage } from "../http/linkPage";

/** Shows a held mail to whoever can decide on it, behind their mailed link. */
export async function showHeldMail(
  { db }: Context,
  http: FileRequest<"/held/:token">,
): Promise<Response> {
  const mail = await heldBehind(db, http.req.param("token"));
  if (mail === undefined)
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
      404,
    );
  const chosen = http.req.query("do") ?? "";
  return http.html(
    linkPage(
      `Held: ${mail.subject}`,
      html`<p>${t("leave.fromTo", { from: mail.from, title: mail.title })}</p>
        <ol>
          ${mail.reasons.map((reason) => html`<li>${reason}</li>`)}
        </ol>
        <pre>${mail.text}</pre>
        <form method="post">
          <label>${t("leave.aWordWithItIf")} <input name="word" maxlength="1000" /></label>
          ${Object.entries(DECISIONS)
            .sort(([one], [other]) => Number(other === chosen) - Number(one === chosen))
            .map(
              ([id, words]) => html`<button name="decision" value="${id}">${t(words)}</button> `,
            )}
        </form>`,
    ),
  );
}

/** Decides on a held mail by a mailed link, once. */
export async function decideByLink(
  { db }: Context,
  http: FileRequest<"/held/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const form = await readForm(http);
  const decision = DECIDED.get(String(form.decision));
  if (decision === undefined)
    return http.html(
      linkPage(t("leave.nothingWasDecided"), html`<p>${t("leave.itIsntClearWhatWas")}</p>`),
      400,
    );
  const mail = await heldBehind(db, token);
  if (mail === undefined || (await takeLink(db, token, "held mail")) === undefined)
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
      404,
    );
  const { addresses } = orRefuse(
    await decideHeld(
      db,
      mail.postId,
      mail.by,
      decision,
      typeof form.word === "string" ? form.word.trim().slice(0, 1000) : "",
    ),
  );
  return http.html(
    linkPage(
      t("shared.thankYou"),
      html`<p>
        ${t("leave.isdecisionItGoesToAddresses", { goesOut: decision === "let out", addresses, decision })}
      </p>`,
    ),
  );
}

/** What stands on the buttons for a held mail, by the word in the link. */
const DECISIONS = {
  out: "leave.sendItOut",
  return: "leave.returnToSender",
  drop: "leave.discard",
} as const;

const DECIDED = new Map<string, HeldDecision>([
  ["out", "let out"],
  ["return", "return"],
  ["drop", "drop"],
]);

/** A mail that is still held, and whose decision the link is: an account that still runs one of its lists, or coordinates. */
async function heldBehind(db: Database, token: string) {
  const link = await linkBehind(db, token, "held mail");
  const [postId = "", accountId = ""] = link?.about.split(" ") ?? [];
  if (link === undefined) return undefined;
  const by = await findDecider(db, accountId);
  if (by === undefined) return undefined;
  const mail = await findHeldMail(db, postId, by);
  return mail === undefined
    ? undefined
    : {
        postId,
        by: { id: by.id, name: by.name },
        subject: mail.subject || t("leave.noSubject"),
        from: mail.fromName === "" ? mail.fromAddress : `${mail.fromName} (${mail.fromAddress})`,
        reasons: mail.reasons,
        title: mail.title,
        text: (await showMessage(mail.raw)).text.slice(0, 20_000),
      };
}
