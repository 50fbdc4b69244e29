import { orRefuse } from "../http/fault";
import { html } from "hono/html";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { Left } from "../change/leaveList";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { copyOfLeaveToken } from "../posting/leaveToken";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { findCopy, listLeadsOf } from "./queries";
import { closedPage, linkPage } from "../http/linkPage";
import { speakTo } from "../texts/familyLanguage";

/** Asks whoever opens a copy's leave link whether they want to leave. */
export async function showLeavePage(
  context: Context,
  http: FileRequest<"/leave/:token">,
): Promise<Response> {
  const found = await copyOf(context, http.req.param("token"));
  if (found === undefined)
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.itNoLongerBelongsTo")}</p>`),
      404,
    );
  if (!found.member)
    return http.html(
      linkPage(
        t("leave.youAreNotOn", { title: found.title }),
        html`<p>${t("leave.getsNoMailFromThis", { address: found.address })}</p>`,
      ),
    );
  if (found.leads !== undefined)
    return http.html(
      linkPage(
        t("leave.toLeave", { title: found.title }),
        html`<p>${t("leave.onlyALeadCanTake", { house: found.house, leads: found.leads })}</p>`,
      ),
    );
  return http.html(
    linkPage(
      t("leave.leave", { title: found.title }),
      html`<p>${t("leave.getsTheMailOfThis", { address: found.address, house: found.house })}</p>
        <form method="post"><button>${t("leave.leaveThisList")}</button></form>`,
    ),
  );
}

/** Takes an address off a list by its copy's leave link, or by one click (RFC 8058). */
export async function leaveByCopy(
  context: Context,
  http: FileRequest<"/leave/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const found = await copyOf(context, token);
  if (found === undefined)
    return http.html(
      linkPage(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.itDoesNotBelongTo")}</p>`),
      404,
    );
  if (found.leads !== undefined)
    return http.html(
      linkPage(
        t("leave.toLeave", { title: found.title }),
        html`<p>${t("leave.toLeaveThisListAsk")}</p>`,
      ),
      403,
    );
  const isClosed = found.member && (await leave(context, found)) === "closed";
  if (isClosed) return http.html(closedPage(found.title));
  return http.html(
    linkPage(
      t("leave.youHaveLeft", { title: found.title }),
      html`<p>${t("leave.getsNoMoreMailFrom", { address: found.address, house: found.house })}</p>`,
    ),
  );
}

interface Copy {
  listId: string;
  title: string;
  address: string;
  house: string;
  member: boolean;
  /** Who the leads are, where members leave through them only. */
  leads: string | undefined;
}

async function copyOf(
  { db, houseKey }: Pick<Context, "db" | "houseKey">,
  token: string,
): Promise<Copy | undefined> {
  const copy = copyOfLeaveToken(houseKey, token);
  if (copy === undefined) return undefined;
  const found = await findCopy(db, copy);
  if (found === undefined) return undefined;
  await speakTo(db, found.address);
  const leads =
    found.rules.leaving === "by oneself"
      ? undefined
      : say(
          each(
            (await listLeadsOf(db, found.listId)).map(({ name, email }) => `${name} (${email})`),
          ),
        );
  return { ...found, member: found.member !== null, leads };
}

/** Ends a membership by the member's own wish, which every later import respects. */
async function leave({ desk }: Context, { listId, address }: Copy): Promise<Left["is"]> {
  const left = await desk.run("leaveList", {
    leaving: { listId, address, reason: inStaffLanguage(() => t("leave.leftByTheLinkIn")) },
  });
  return orRefuse(left).is;
}
