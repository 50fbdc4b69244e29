import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { and, eq, isNull, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { html } from "hono/html";
import { readForm } from "../http/readForm";
import { hashToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { askedBy as isAskedBy } from "../membership/greet";
import { listsOf } from "../membership/scope";
import { copyOfLeaveToken, isRecent } from "../posting/leaveToken";
import { leaving } from "../posting/leaving";
import { confirmHeld, decideHeld, type HeldDecision } from "../posting/decideHeld";
import { showMessage } from "../posting/showMessage";
import { linkBehind, takeLink } from "../posting/mailLink";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { house } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { list, greeting, listRole, membership } from "../db/schema/lists";
import { message, post, postList } from "../db/schema/posts";
import { delivery } from "../db/schema/deliveries";

/**
 * The page behind a copy's leave link, and the one-click request of RFC 8058. Looking at the page
 * changes nothing; only the button, or the mail program's own, does.
 */
export function leaveRoutes(app: Hono, context: Context): void {
  const { db } = context;

  app.get("/leave/:token", async (http) => {
    const found = await copyOf(context, http.req.param("token"));
    if (found === undefined)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.itNoLongerBelongsTo")}</p>`),
        404,
      );
    if (!found.member)
      return http.html(
        page(
          t("leave.youAreNotOn", { title: found.title }),
          html`<p>${t("leave.getsNoMailFromThis", { address: found.address })}</p>`,
        ),
      );
    if (found.leads !== undefined)
      return http.html(
        page(
          t("leave.toLeave", { title: found.title }),
          html`<p>${t("leave.onlyALeadCanTake", { house: found.house, leads: found.leads })}</p>`,
        ),
      );
    return http.html(
      page(
        t("leave.leave", { title: found.title }),
        html`<p>${t("leave.getsTheMailOfThis", { address: found.address, house: found.house })}</p>
          <form method="post"><button>${t("leave.leaveThisList")}</button></form>`,
      ),
    );
  });

  app.get("/yes/:token", async (http) => {
    const found = await askedBy(db, http.req.param("token"));
    if (found === undefined || found.answer === "withdrawn" || found.closedAt !== null)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToAnswer")}</p>`),
        404,
      );
    if (found.answer === "yes")
      return http.html(
        page(
          t("leave.youAreOn", { title: found.title }),
          html`<p>${t("leave.getsTheMailOfThis3", { address: found.address })}</p>`,
        ),
      );
    return http.html(
      page(
        t("leave.beOn", { title: found.title }),
        html`<p>${t("leave.wouldGetTheMailOf", { address: found.address, house: found.house })}</p>
          <form method="post"><button>${t("leave.yesPutMeOnThis")}</button></form>`,
      ),
    );
  });

  app.post("/yes/:token", async (http) => {
    const found = await askedBy(db, http.req.param("token"));
    if (found === undefined || found.answer === "withdrawn" || found.closedAt !== null)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToSay")}</p>`),
        404,
      );
    const { member } = await context.desk.run("answerAsk", { id: found.id });
    return http.html(
      member
        ? page(
            t("leave.youAreOn", { title: found.title }),
            html`<p>${t("leave.getsTheMailOfThis2", { address: found.address })}</p>`,
          )
        : page(
            t("shared.thankYou"),
            html`<p>${t("leave.thisListIsNoLonger", { address: found.address })}</p>`,
          ),
    );
  });

  app.get("/mine/:token", async (http) => {
    const found = await linkBehind(db, http.req.param("token"), "own mail");
    const [mail] =
      found === undefined
        ? []
        : await db
            .select({
              subject: post.subject,
              outcome: post.outcome,
              title: list.title,
              house: house.name,
            })
            .from(post)
            .innerJoin(postList, eq(postList.postId, post.id))
            .innerJoin(list, eq(list.id, postList.listId))
            .innerJoin(house, sql`true`)
            .where(eq(post.id, found.about));
    if (mail === undefined || mail.outcome !== "held")
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
        404,
      );
    return http.html(
      page(
        t("leave.didYouWriteThis"),
        html`<p>
            ${t("leave.aMailInYourName", { title: mail.title, house: mail.house, subject: mail.subject })}
          </p>
          <form method="post"><button>${t("leave.yesIWroteIt")}</button></form>
          <p>${t("leave.ifYouDidNotThere")}</p>`,
      ),
    );
  });

  app.post("/mine/:token", async (http) => {
    const found = await takeLink(db, http.req.param("token"), "own mail");
    const outcome = found === undefined ? "decided" : await confirmHeld(db, found.about);
    if (outcome === "decided")
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
        404,
      );
    if (outcome === "goes out")
      return http.html(page(t("shared.thankYou"), html`<p>${t("leave.yourMailIsOnIts")}</p>`));
    return http.html(
      page(t("shared.thankYou"), html`<p>${t("leave.outcomeHeldALeadOr", { outcome })}</p>`),
    );
  });

  app.get("/leave/yes/:token", async (http) => {
    const found = await linkBehind(db, http.req.param("token"), "leave");
    const [of] =
      found === undefined
        ? []
        : await db
            .select({ title: list.title, house: house.name })
            .from(list)
            .innerJoin(house, sql`true`)
            .where(eq(list.id, found.about));
    if (found === undefined || of === undefined)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToConfirm")}</p>`),
        404,
      );
    return http.html(
      page(
        t("leave.leave", { title: of.title }),
        html`<p>${t("leave.getsTheMailOfThis", { address: found.address, house: of.house })}</p>
          <form method="post"><button>${t("leave.leaveThisList")}</button></form>`,
      ),
    );
  });

  app.post("/leave/yes/:token", async (http) => {
    const found = await takeLink(db, http.req.param("token"), "leave");
    if (found === undefined)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.thereIsNothingToConfirm")}</p>`),
        404,
      );
    await context.desk.run("keepAddress", {
      actor: { id: null, name: found.address },
      keep: leaving(found.about, found.address),
    });
    return http.html(
      page(
        t("leave.youHaveLeftTheList"),
        html`<p>${t("leave.getsNoMoreMailFrom2", { address: found.address })}</p>`,
      ),
    );
  });

  app.get("/held/:token", async (http) => {
    const mail = await heldBehind(db, http.req.param("token"));
    if (mail === undefined)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
        404,
      );
    const chosen = http.req.query("do") ?? "";
    return http.html(
      page(
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
  });

  app.post("/held/:token", async (http) => {
    const token = http.req.param("token");
    const form = await readForm(http);
    const decision = DECIDED.get(String(form.decision));
    if (decision === undefined)
      return http.html(
        page(t("leave.nothingWasDecided"), html`<p>${t("leave.itIsntClearWhatWas")}</p>`),
        400,
      );
    const mail = await heldBehind(db, token);
    if (mail === undefined || (await takeLink(db, token, "held mail")) === undefined)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.noMailWaitsForYour")}</p>`),
        404,
      );
    const { addresses } = await decideHeld(
      db,
      mail.postId,
      mail.by,
      decision,
      typeof form.word === "string" ? form.word.trim().slice(0, 1000) : "",
    );
    return http.html(
      page(
        t("shared.thankYou"),
        html`<p>
          ${t("leave.isdecisionItGoesToAddresses", { goesOut: decision === "let out", addresses, decision })}
        </p>`,
      ),
    );
  });

  app.post("/leave/:token", async (http) => {
    const token = http.req.param("token");
    const found = await copyOf(context, token);
    if (found === undefined)
      return http.html(
        page(t("leave.thisLinkHasRunOut"), html`<p>${t("leave.itDoesNotBelongTo")}</p>`),
        404,
      );
    if (found.leads !== undefined)
      return http.html(
        page(
          t("leave.toLeave", { title: found.title }),
          html`<p>${t("leave.toLeaveThisListAsk")}</p>`,
        ),
        403,
      );
    await leave(context, found);
    return http.html(
      page(
        t("leave.youHaveLeft", { title: found.title }),
        html`<p>
          ${t("leave.getsNoMoreMailFrom", { address: found.address, house: found.house })}
        </p>`,
      ),
    );
  });
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
  const [by] = await db
    .select({
      id: account.id,
      name: account.name,
      email: account.email,
      role: account.role,
      siteId: account.siteId,
    })
    .from(account)
    .where(and(eq(account.id, accountId), accountInForce));
  if (by === undefined) return undefined;
  const [mail] = await db
    .select({
      subject: post.subject,
      fromName: post.fromName,
      fromAddress: post.fromAddress,
      reasons: post.reasons,
      title: list.title,
      raw: message.raw,
    })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(list, eq(list.id, postList.listId))
    .where(and(eq(post.id, postId), eq(post.outcome, "held"), listsOf({ ...by, by: "session" })));
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

/** Whether the question behind a link still waits for its answer, and of which list it is. */
async function askedBy(db: Database, token: string) {
  const [found] = await db
    .select({
      id: greeting.id,
      address: greeting.address,
      answer: greeting.answer,
      title: list.title,
      house: house.name,
      closedAt: list.closedAt,
    })
    .from(greeting)
    .innerJoin(list, eq(list.id, greeting.listId))
    .innerJoin(house, sql`true`)
    .where(isAskedBy(hashToken(token)));
  return found;
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
  { db, dkim }: Pick<Context, "db" | "dkim">,
  token: string,
): Promise<Copy | undefined> {
  const copy = copyOfLeaveToken(dkim.pem, token);
  if (copy === undefined) return undefined;
  const [found] = await db
    .select({
      listId: list.id,
      title: list.title,
      address: delivery.address,
      house: house.name,
      member: membership.id,
      rules: list.rules,
    })
    .from(delivery)
    .innerJoin(list, eq(list.id, delivery.listId))
    .innerJoin(house, sql`true`)
    .leftJoin(
      membership,
      and(
        eq(membership.listId, delivery.listId),
        eq(membership.address, delivery.address),
        isNull(membership.validUntil),
      ),
    )
    .where(and(eq(delivery.id, copy), isRecent));
  if (found === undefined) return undefined;
  const leads =
    found.rules.leaving === "by oneself"
      ? undefined
      : say(
          each(
            (
              await db
                .select({ name: account.name, email: account.email })
                .from(listRole)
                .innerJoin(account, eq(account.id, listRole.accountId))
                .where(and(eq(listRole.listId, found.listId), eq(listRole.role, "lead")))
            ).map(({ name, email }) => `${name} (${email})`),
          ),
        );
  return { ...found, member: found.member !== null, leads };
}

/** Ends a membership by the member's own wish, which every later reading respects. */
async function leave({ desk }: Context, { listId, address, member }: Copy): Promise<void> {
  if (member)
    await desk.run("keepAddress", {
      actor: { id: null, name: address },
      keep: { listId, address, side: "off", reason: t("leave.leftByTheLinkIn"), lastDay: "" },
    });
}

function page(title: string, body: ReturnType<typeof html>) {
  return html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title}</title>
        <link rel="stylesheet" href="/leave.css" />
      </head>
      <body>
        <main>
          <h1>${title}</h1>
          ${body}
        </main>
      </body>
    </html>`;
}
