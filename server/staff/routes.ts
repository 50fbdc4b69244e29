import { and, asc, count, eq, gt, inArray, isNull, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { HOUSE_ROLES, type HouseRole } from "@amigo/core/access/may";
import { dayIn } from "@amigo/core/schedule/dayIn";
import {
  deleteSession,
  getAccounts,
  getOwnSessions,
  postAccount,
  postChoosePassword,
  postEndAccount,
  postEndOthers,
  postInviteAgain,
  postLookAtLink,
  postMailLink,
  postPassword,
  postSignInByLink,
  putAccount,
} from "@amigo/contract/staff";
import { postResetTwoStep } from "@amigo/contract/twoStep";
import { passFirstStep } from "../accounts/beginSession";
import { isWithinTries } from "../http/limitTries";
import { passwordFault } from "../accounts/passwordFault";
import { hashPassword } from "../accounts/password";
import { confirmPassword } from "../accounts/confirmPassword";
import { endOtherSessions } from "../accounts/signIn";
import type { Caller } from "../callers/caller";
import { hashToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { notFound, Refusal } from "../http/fault";
import { networkAddress } from "../http/networkAddress";
import { readSecret } from "../http/cookies";
import { route } from "../http/route";
import { record } from "../journal/record";
import { linkBehind, makeLink, takeLink } from "../posting/mailLink";
import { sendNote } from "../posting/sendNote";
import { editorOf } from "../rounds/reach";
import { removeSecondSteps } from "../twoStep/queries";
import { tellOwner } from "../twoStep/tellOwner";
import { describeFailure } from "../log/describeFailure";
import { t } from "../texts/t";
import { accountInForce, hasSecondStep } from "../callers/inForce";
import { house, season, site } from "../db/schema/house";
import { account, session, signInStep, apiToken } from "../db/schema/accounts";
import { sourceHelper, source } from "../db/schema/sources";
import { list, listRole } from "../db/schema/lists";
import { mailedLink } from "../db/schema/members";

/** How long mailed links are good, in hours. */
const INVITED_HOURS = 14 * 24;
const SIGN_IN_HOURS = 0.5;
const PASSWORD_HOURS = 2;
/** How many links may be mailed to one address in an hour, and asked for from one network address. */
const LINKS_PER_ADDRESS = 4;
const LINKS_PER_NETWORK = 30;

export function staffRoutes(app: Hono, context: Context): void {
  const { db, desk, settings } = context;

  route(app, context, getAccounts, async ({ caller }) => {
    const [own] = await db.select({ timeZone: house.timeZone }).from(house);
    const rows = await db
      .select({ account, site: site.name, leads: count(list.id), hasSecondStep })
      .from(account)
      .leftJoin(site, eq(site.id, account.siteId))
      .leftJoin(listRole, eq(listRole.accountId, account.id))
      .leftJoin(list, and(eq(list.id, listRole.listId), isNull(list.closedAt)))
      .where(
        caller.role === "coordinator"
          ? undefined
          : caller.siteId === null
            ? eq(account.id, caller.id)
            : eq(account.siteId, caller.siteId),
      )
      .groupBy(account.id, site.name)
      .orderBy(sql`${account.endedAt} is not null and ${account.endedAt} <= now()`, account.name);
    const helping = await db
      .select({ accountId: sourceHelper.accountId, id: source.id, name: source.name })
      .from(sourceHelper)
      .innerJoin(source, eq(source.id, sourceHelper.sourceId));
    const sources =
      caller.role !== "coordinator"
        ? []
        : await db
            .select({ id: source.id, name: source.name })
            .from(source)
            .innerJoin(season, eq(season.id, source.seasonId))
            .where(eq(season.current, true))
            .orderBy(source.name);
    const sites = await db.select({ id: site.id, name: site.name }).from(site).orderBy(site.name);
    return {
      accounts: rows.map(({ account: row, site: at, leads, hasSecondStep: twoStep }) => ({
        id: row.id,
        name: row.name,
        email: row.email,
        role: row.role,
        site: at ?? "",
        leads,
        sources: helping
          .filter(({ accountId }) => accountId === row.id)
          .map(({ id, name }) => ({ id, name })),
        lastDay:
          row.endedAt === null
            ? ""
            : dayIn(own?.timeZone ?? "UTC", new Date(row.endedAt.getTime() - 1)),
        state:
          row.endedAt !== null && row.endedAt.getTime() <= Date.now()
            ? ("ended" as const)
            : row.passwordHash === ""
              ? ("invited" as const)
              : ("in use" as const),
        twoStep,
        mine: row.id === caller.id,
        mayChange: mayGive(caller, row.role, row.siteId),
      })),
      sites: sites
        .filter(({ id }) => caller.role === "coordinator" || id === caller.siteId)
        .map(({ name }) => name),
      sources,
      roles: HOUSE_ROLES.filter((role) => mayGive(caller, role, caller.siteId)),
    };
  });

  route(app, context, postAccount, async ({ body, caller }) => {
    const siteId = await siteNamed(db, body.site, body.role);
    refuseGiving(caller, body.role, siteId);
    const { id } = await desk.run("changeAccount", {
      editor: editorOf(caller),
      change: {
        what: "invite",
        name: body.name,
        email: body.email,
        role: body.role,
        siteId,
        sources: body.sources,
        lastDay: body.lastDay,
      },
    });
    await invite(id, body.name, body.email, caller);
    return { id };
  });

  route(app, context, putAccount, async ({ params, body, caller }) => {
    const row = await changeable(db, params.id, caller);
    const siteId = await siteNamed(db, body.site, body.role);
    refuseGiving(caller, body.role, siteId);
    await desk.run("changeAccount", {
      editor: editorOf(caller),
      change: {
        what: "role",
        id: row.id,
        role: body.role,
        siteId,
        sources: body.sources,
        lastDay: body.lastDay,
      },
    });
    return { done: true as const };
  });

  route(app, context, postEndAccount, async ({ params, body, caller }) => {
    const row = await changeable(db, params.id, caller);
    await desk.run("changeAccount", {
      editor: editorOf(caller),
      change: { what: "end", id: row.id, ended: body.ended },
    });
    return { done: true as const };
  });

  route(app, context, postInviteAgain, async ({ params, caller }) => {
    const row = await changeable(db, params.id, caller);
    if (row.passwordHash !== "")
      throw new Refusal(
        409,
        "account/in-use",
        t("staff.hasChosenAPasswordAlready", { name: row.name }),
      );
    await db
      .update(mailedLink)
      .set({ usedAt: sql`now()` })
      .where(
        and(
          eq(mailedLink.purpose, "invitation"),
          eq(mailedLink.about, row.id),
          isNull(mailedLink.usedAt),
        ),
      );
    await invite(row.id, row.name, row.email, caller);
    return { done: true as const };
  });

  route(app, context, postResetTwoStep, async ({ params, caller }) => {
    const row = await changeable(db, params.id, caller);
    await db.transaction(async (tx) => {
      await removeSecondSteps(tx, row.id);
      await tx.delete(session).where(eq(session.accountId, row.id));
      await tellOwner(tx, settings, row, t("staff.resetTheTwoStepSign2", { name: caller.name }));
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "reset two-step sign-in",
        sentence: t("staff.resetTheTwoStepSign", { name: caller.name, colleague: row.name }),
      });
    });
    return { done: true as const };
  });

  route(app, context, getOwnSessions, async ({ caller, http }) => {
    const mine = hashToken(readSecret(http, settings, "session") ?? "");
    const rows = await db
      .select()
      .from(session)
      .where(and(eq(session.accountId, caller.id), gt(session.expiresAt, sql`now()`)))
      .orderBy(asc(session.createdAt));
    return rows.map(({ id, browser, createdAt, lastSeenAt, tokenHash }) => ({
      id,
      browser,
      since: createdAt.toISOString(),
      lastSeen: lastSeenAt.toISOString(),
      mine: tokenHash === mine,
    }));
  });

  route(app, context, deleteSession, async ({ params, caller }) => {
    const ended = await db
      .delete(session)
      .where(and(eq(session.id, params.id), eq(session.accountId, caller.id)))
      .returning({ id: session.id });
    if (ended.length === 0) throw notFound("session");
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "end session",
      sentence: t("staff.endedOneOfTheirSessions", { name: caller.name }),
    });
    return { done: true as const };
  });

  route(app, context, postEndOthers, async ({ caller, http }) => {
    const ended = await endOtherSessions(
      db,
      caller.id,
      readSecret(http, settings, "session") ?? "",
    );
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "end session",
      sentence: t("staff.endedOfTheirOtherSessions", { name: caller.name, ended }),
    });
    return { ended };
  });

  route(app, context, postPassword, async ({ body, caller, http }) => {
    await confirmPassword(context, http, caller, body.current, "current");
    await storePassword(db, caller, body.password);
    await endOtherSessions(db, caller.id, readSecret(http, settings, "session") ?? "");
    await endSecrets(db, caller.id);
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "change password",
      sentence: t("staff.changedTheirPasswordTheirOther", { name: caller.name }),
    });
    return { done: true as const };
  });

  route(app, context, postMailLink, async ({ body, http }) => {
    if (
      !(await isWithinTries(
        db,
        `links from ${networkAddress(http, settings)}`,
        LINKS_PER_NETWORK,
        60,
      ))
    )
      throw new Refusal(429, "link/too-many", t("shared.tooManyLinksWereAsked"));
    // What an address gets is told to its owner alone; to whoever asks, everything looks alike, and takes as long.
    void isWithinTries(db, `link to ${body.email}`, LINKS_PER_ADDRESS, 60)
      .then((within) => (within ? mailLink(body.email, body.what) : undefined))
      .catch((failure: unknown) =>
        context.log.warn({ failure: describeFailure(failure) }, "a link could not be mailed"),
      );
    return { done: true as const };
  });

  route(app, context, postSignInByLink, async ({ body, http }) => {
    const link = await takeLink(db, body.token, "sign-in");
    const [found] =
      link === undefined
        ? []
        : await db
            .select({ id: account.id, name: account.name })
            .from(account)
            .where(and(eq(account.id, link.about), accountInForce));
    if (found === undefined) throw ranOut();
    return { done: await passFirstStep(context, http, found, t("staff.signedInByAMailed")) };
  });

  route(app, context, postLookAtLink, async ({ body }) => {
    for (const what of ["invitation", "new password"] as const) {
      const link = await linkBehind(db, body.token, what);
      const [found] =
        link === undefined
          ? []
          : await db
              .select({ name: account.name, email: account.email, house: house.name })
              .from(account)
              .innerJoin(house, sql`true`)
              .where(and(eq(account.id, link.about), accountInForce));
      if (found !== undefined) return { ...found, what };
    }
    throw ranOut();
  });

  route(app, context, postChoosePassword, async ({ body, http }) => {
    const looked =
      (await linkBehind(db, body.token, "invitation")) ??
      (await linkBehind(db, body.token, "new password"));
    const [found] =
      looked === undefined
        ? []
        : await db
            .select({
              id: account.id,
              name: account.name,
              email: account.email,
              role: account.role,
              siteId: account.siteId,
            })
            .from(account)
            .where(and(eq(account.id, looked.about), accountInForce));
    if (found === undefined) throw ranOut();
    await refuseWeak(db, found, body.password);
    const taken =
      (await takeLink(db, body.token, "invitation")) ??
      (await takeLink(db, body.token, "new password"));
    if (taken === undefined) throw ranOut();
    await storePassword(db, found, body.password);
    await db.delete(session).where(eq(session.accountId, found.id));
    await notify(db, "house");
    await endSecrets(db, found.id);
    await record(db, {
      actorId: found.id,
      actor: found.name,
      action: "change password",
      sentence: t("staff.choseAPasswordByA", { name: found.name }),
    });
    return { done: await passFirstStep(context, http, found, t("shared.signedIn")) };
  });

  async function invite(id: string, name: string, email: string, by: Caller): Promise<void> {
    await db.transaction(async (tx) => {
      const [own] = await tx.select({ name: house.name }).from(house);
      const token = await makeLink(tx, {
        purpose: "invitation",
        address: email,
        about: id,
        hours: INVITED_HOURS,
      });
      const text = [
        t("shared.hello", { name }),
        "",
        t("staff.invitesYouToAmigoWhich", {
          name: by.name,
          school: own?.name ?? t("staff.theHouse"),
        }),
        "",
        t("staff.chooseAPasswordHereAnd"),
        `${settings.url}/password/${token}`,
        "",
        t("staff.theLinkWorksOnceFor3"),
      ].join("\r\n");
      await sendNote(
        tx,
        { name, address: email },
        {
          subject: t("staff.invitesYouToTheLists", {
            name: by.name,
            school: own?.name ?? t("staff.theHouse"),
          }),
          text,
        },
      );
      await notify(tx, "house");
    });
  }

  async function mailLink(email: string, what: "sign-in" | "new password"): Promise<void> {
    await db.transaction(async (tx) => {
      const [found] = await tx
        .select({
          id: account.id,
          name: account.name,
          house: house.name,
          passwordHash: account.passwordHash,
        })
        .from(account)
        .innerJoin(house, sql`true`)
        .where(and(eq(account.email, email), accountInForce));
      if (found === undefined) return;
      const purpose = what === "sign-in" ? ("sign-in" as const) : ("new password" as const);
      const token = await makeLink(tx, {
        purpose,
        address: email,
        about: found.id,
        hours: what === "sign-in" ? SIGN_IN_HOURS : PASSWORD_HOURS,
      });
      const text =
        what === "sign-in"
          ? [
              t("shared.hello", { name: found.name }),
              "",
              t("staff.signInToAmigoHere"),
              `${settings.url}/enter/${token}`,
              "",
              t("staff.theLinkWorksOnceFor2"),
            ]
          : [
              t("shared.hello", { name: found.name }),
              "",
              t("staff.chooseANewPasswordHere"),
              `${settings.url}/password/${token}`,
              "",
              t("staff.theLinkWorksOnceFor"),
            ];
      await sendNote(
        tx,
        { name: found.name, address: email },
        {
          subject:
            what === "sign-in"
              ? t("staff.signInToTheLists", { house: found.house })
              : t("staff.aNewPasswordForThe", { house: found.house }),
          text: text.join("\r\n"),
        },
        { what: "link" },
      );
    });
  }
}

const ranOut = (): Refusal =>
  new Refusal(422, "link/ran-out", t("shared.thisLinkWasUsedAlready"), "token");

/** Whether somebody may give or change a role: a coordinator every one; a site coordinator the staff and helpers of their site. */
function mayGive(caller: Caller, role: HouseRole, siteId: number | null): boolean {
  return (
    caller.role === "coordinator" ||
    (caller.role === "site coordinator" &&
      role === "staff" &&
      siteId !== null &&
      siteId === caller.siteId)
  );
}

function refuseGiving(caller: Caller, role: HouseRole, siteId: number | null): void {
  if (!mayGive(caller, role, siteId))
    throw new Refusal(403, "account/role", t("staff.youMayInviteAndChange"), "role");
}

async function changeable(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<typeof account.$inferSelect> {
  const [row] = await db.select().from(account).where(eq(account.id, id));
  if (row === undefined || !mayGive(caller, row.role, row.siteId)) throw notFound("account");
  return row;
}

async function siteNamed(db: Queries, name: string, role: HouseRole): Promise<number | null> {
  if (name === "") {
    if (role === "site coordinator")
      throw new Refusal(422, "account/site", t("staff.sayForWhichSiteA"), "site");
    return null;
  }
  const [found] = await db.select({ id: site.id }).from(site).where(eq(site.name, name));
  if (found === undefined)
    throw new Refusal(422, "account/site", t("staff.thereIsNoSiteCalled", { name }), "site");
  return found.id;
}

async function refuseWeak(
  db: Queries,
  who: { name: string; email: string },
  password: string,
): Promise<void> {
  const [own] = await db.select({ name: house.name }).from(house);
  const fault = passwordFault(password, [who.name, who.email, own?.name ?? ""]);
  if (fault !== undefined) throw new Refusal(422, "password/weak", fault, "password");
}

async function storePassword(
  db: Queries,
  who: { id: string; name: string; email: string },
  password: string,
): Promise<void> {
  await refuseWeak(db, who, password);
  await db
    .update(account)
    .set({ passwordHash: await hashPassword(password) })
    .where(eq(account.id, who.id));
}

/** Ends every mailed link, API token and half-done sign-in of an account: whoever knew the old password may have made them. */
async function endSecrets(db: Queries, accountId: string): Promise<void> {
  await db
    .delete(mailedLink)
    .where(
      and(
        inArray(mailedLink.purpose, ["invitation", "sign-in", "new password", "held mail"]),
        sql`(${mailedLink.about} = ${accountId} or ${mailedLink.about} like ${`% ${accountId}`})`,
      ),
    );
  await db
    .update(apiToken)
    .set({ revokedAt: sql`now()` })
    .where(and(eq(apiToken.accountId, accountId), isNull(apiToken.revokedAt)));
  await db.delete(signInStep).where(eq(signInStep.accountId, accountId));
}
