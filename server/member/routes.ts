import { and, desc, eq, isNull, lt, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { day } from "@amigo/language/message";
import { isInside } from "@amigo/core/address/isInside";
import { faultForOutsiders } from "@amigo/core/address/faultSentence";
import { readAddress } from "@amigo/core/address/readAddress";
import { oneHeaderLine } from "@amigo/core/mail/headerText";
import { dayIn } from "@amigo/core/schedule/dayIn";
import {
  getMember,
  getMemberArchive,
  getMemberOthers,
  getMemberPost,
  postConfirmAddress,
  postMemberEnter,
  postMemberGo,
  postMemberJoin,
  postMemberLeave,
  postMemberLink,
  postNewAddress,
  postWrong,
  putHowOften,
  putPause,
} from "@amigo/contract/member";
import { isWithinTries } from "../http/limitTries";
import { hashToken, makeToken } from "../callers/tokens";
import type { Context } from "../context";
import { notify } from "../events/events";
import { notFound, Refusal } from "../http/fault";
import { networkAddress } from "../http/networkAddress";
import { forgetSecret, keepSecret, readSecret } from "../http/cookies";
import { findMember, route } from "../http/route";
import { record } from "../journal/record";
import { namesBehind } from "../membership/namesBehind";
import { setHowOften } from "../membership/setHowOften";
import { waitForLead } from "../membership/greet";
import { linkBehind, makeLink, takeLink } from "../posting/mailLink";
import { sendNote } from "../posting/sendNote";
import { attachmentOf, showMessage } from "../posting/showMessage";
import { searchOf } from "../posting/searchOf";
import { memberLists, personAt } from "./memberLists";
import { describeFailure } from "../log/describeFailure";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { house, season } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { list, listRole, membership } from "../db/schema/lists";
import { memberSession, pause } from "../db/schema/members";
import { message, post, postList } from "../db/schema/posts";

/** How long a link to the page is good, and the page once it is open, in hours. */
const LINK_HOURS = 1;
const PAGE_HOURS = 12;
const CONFIRM_HOURS = 72;
const LINKS_PER_ADDRESS = 4;
const LINKS_PER_NETWORK = 30;
const WORDS_A_DAY = 10;
const POSTS = 20;

/** What the archive shows of a post, and which posts stand in it. */
const archived = {
  id: post.id,
  subject: post.subject,
  from: post.fromName,
  fromAddress: post.fromAddress,
  at: post.at,
  thread: post.thread,
  raw: message.raw,
};
const inArchive = and(
  eq(post.outcome, "goes out"),
  eq(post.reaches, "members"),
  isNull(post.takenOutAt),
  isNull(message.erasedAt),
  sql`(${post.leavesAt} is null or ${post.leavesAt} <= now())`,
);

async function showArchived({
  id,
  subject,
  from,
  fromAddress,
  at,
  thread,
  raw,
}: {
  id: string;
  subject: string;
  from: string;
  fromAddress: string;
  at: Date;
  thread: string | null;
  raw: Buffer;
}) {
  const { text, attachments } = await showMessage(raw);
  return {
    id,
    subject,
    from: from || fromAddress,
    at: at.toISOString(),
    text,
    thread: thread ?? id,
    attachments: attachments.map(({ index, name, size }) => ({ index, name, size })),
  };
}

/** The member page: everything that somebody on a list may do without an account. */
export function memberRoutes(app: Hono, context: Context): void {
  const { db, desk, settings } = context;

  route(app, context, postMemberLink, async ({ body, http }) => {
    if (
      !(await isWithinTries(
        db,
        `links from ${networkAddress(http, settings)}`,
        LINKS_PER_NETWORK,
        60,
      ))
    )
      throw new Refusal(429, "link/too-many", t("shared.tooManyLinksWereAsked"));
    // Whether the address is on any list is told to its owner alone.
    void isWithinTries(db, `page link to ${body.address}`, LINKS_PER_ADDRESS, 60)
      .then((within) => (within ? mailLink(body.address) : undefined))
      .catch((failure: unknown) =>
        context.log.warn({ failure: describeFailure(failure) }, "a link could not be mailed"),
      );
    return { done: true as const };
  });

  route(app, context, postMemberEnter, async ({ body, http }) => {
    const link = await takeLink(db, body.token, "member page");
    if (link === undefined)
      throw new Refusal(422, "link/ran-out", t("shared.thisLinkWasUsedAlready"), "token");
    const token = makeToken();
    await db.insert(memberSession).values({
      tokenHash: hashToken(token),
      address: link.address,
      expiresAt: sql`now() + make_interval(hours => ${PAGE_HOURS})`,
    });
    keepSecret(http, settings, "member", token, PAGE_HOURS * 3600);
    return { done: true as const };
  });

  route(app, context, postMemberGo, async ({ http }) => {
    await db
      .delete(memberSession)
      .where(eq(memberSession.tokenHash, hashToken(readSecret(http, settings, "member") ?? "")));
    forgetSecret(http, settings, "member");
    return { done: true as const };
  });

  route(app, context, getMember, async ({ member }) => memberLists(db, member));

  route(app, context, putHowOften, async ({ params, body, member }) => {
    const own = await listOn(params.id, member);
    await setHowOften(db, { id: null, name: member }, own.id, member, body.howOften);
    return { done: true as const };
  });

  route(app, context, putPause, async ({ body, member }) => {
    const [own] = await db.select({ timeZone: house.timeZone }).from(house);
    if (body.until !== "" && body.until < dayIn(own?.timeZone ?? "UTC", new Date()))
      throw new Refusal(422, "member/pause", t("member.thatDayIsOverChoose"), "until");
    if (body.until === "") await db.delete(pause).where(eq(pause.address, member));
    else
      await db
        .insert(pause)
        .values({ address: member, until: body.until })
        .onConflictDoUpdate({ target: pause.address, set: { until: body.until } });
    await record(db, {
      actor: member,
      action: "pause",
      sentence:
        body.until === ""
          ? t("member.getsMailOfListsAgain", { member })
          : t("member.getsNoMailOfLists", { member, until: day(body.until) }),
    });
    return { done: true as const };
  });

  route(app, context, postMemberLeave, async ({ params, member }) => {
    const own = await listOn(params.id, member);
    if (own.rules.leaving !== "by oneself")
      throw new Refusal(403, "member/leave", t("member.toLeaveThisListAsk"));
    await desk.run("keepAddress", {
      actor: { id: null, name: member },
      keep: {
        listId: own.id,
        address: member,
        side: "off",
        reason: t("member.leftOnTheMemberPage"),
        lastDay: "",
      },
    });
    return { done: true as const };
  });

  route(app, context, postMemberJoin, async ({ params, member }) => {
    const found = (await memberLists(db, member)).open.find(({ id }) => id === params.id);
    if (found === undefined || found.how === "no") throw notFound("list");
    if (found.how === "join") {
      await desk.run("keepAddress", {
        actor: { id: null, name: member },
        keep: {
          listId: found.id,
          address: member,
          side: "on",
          reason: t("member.cameOntoItOnThe"),
          lastDay: "",
        },
      });
      return { member: true };
    }
    await db.transaction(async (tx) => {
      await waitForLead(tx, {
        listId: found.id,
        addresses: [member],
        by: member,
        reason: t("member.asksToComeOntoIt"),
        lastDay: "",
      });
      await record(tx, {
        actor: member,
        action: "ask to join",
        listId: found.id,
        sentence: t("member.asksToComeOntoThis", { member }),
      });
      const leads = await tx
        .select({ name: account.name, email: account.email })
        .from(listRole)
        .innerJoin(account, eq(account.id, listRole.accountId))
        .where(and(eq(listRole.listId, found.id), eq(listRole.role, "lead"), accountInForce));
      for (const { name, email } of leads)
        await sendNote(
          tx,
          { name, address: email },
          {
            subject: oneHeaderLine(t("member.asksToComeOnto", { member, title: found.title })),
            text: [
              t("shared.hello", { name }),
              "",
              t("member.asksToComeOntoAgree", { member, title: found.title }),
              `${settings.url}/lists/${found.id}`,
            ].join("\r\n"),
          },
        );
      await notify(tx, "board");
    });
    return { member: false };
  });

  route(app, context, postNewAddress, async ({ body, member }) => {
    const read = readAddress(body.address, new Map());
    if (read.answer !== "clean")
      throw new Refusal(
        422,
        "member/address",
        read.answer === "probably"
          ? t("member.didYouMean", { address: read.address })
          : t("member.thisIsNoAddress", { read: faultForOutsiders(read) }),
        "address",
      );
    const person = await personAt(db, member);
    if (person === undefined)
      throw new Refusal(422, "member/unknown", t("member.nobodyInTheRosterHas"), "address");
    if (
      isInside(
        read.address,
        (await db.select({ domain: house.insideDomain }).from(house))[0]?.domain ?? "",
      )
    )
      throw new Refusal(422, "member/inside", t("member.addressesInsideYourDomainsAre"), "address");
    if (!(await isWithinTries(db, `new address of ${member}`, LINKS_PER_ADDRESS, 60)))
      throw new Refusal(429, "link/too-many", t("member.tooManyAddressesWereNamed"));
    await db.transaction(async (tx) => {
      const token = await makeLink(tx, {
        purpose: "new address",
        address: read.address,
        about: member,
        hours: CONFIRM_HOURS,
      });
      const [own] = await tx.select({ name: house.name }).from(house);
      await sendNote(
        tx,
        { name: person.name, address: read.address },
        {
          subject: t("member.isThisYourAddress"),
          text: [
            "Hello,",
            "",
            t("member.wouldLikeToGetThe", { member, name: own?.name ?? "the house" }),
            `${settings.url}/member/address/${token}`,
            "",
            t("member.theLinkWorksOnceFor2"),
          ].join("\r\n"),
        },
      );
    });
    return { done: true as const };
  });

  route(app, context, postConfirmAddress, async ({ body }) => {
    const looked = await linkBehind(db, body.token, "new address");
    const person = looked === undefined ? undefined : await personAt(db, looked.about);
    if (
      looked === undefined ||
      person === undefined ||
      (await takeLink(db, body.token, "new address")) === undefined
    )
      throw new Refusal(422, "link/ran-out", t("member.thisLinkWasUsedAlready"), "token");
    const addresses = [
      ...new Set([
        ...person.addresses.filter((address) => address !== looked.about),
        looked.address,
      ]),
    ];
    await desk.run("settleByHand", {
      actor: { id: null, name: `${person.name} (${looked.about})` },
      person: person.id,
      addresses,
    });
    return { address: looked.address };
  });

  route(app, context, postWrong, async ({ body, member }) => {
    if (!(await isWithinTries(db, `word of ${member}`, WORDS_A_DAY, 1440)))
      throw new Refusal(429, "member/words", t("member.youHaveToldALot"));
    await db.transaction(async (tx) => {
      const person = await personAt(tx, member);
      const about = oneHeaderLine(body.about);
      const who = person === undefined ? member : `${person.name} (${member})`;
      const coordinators = await tx
        .select({ name: account.name, email: account.email })
        .from(account)
        .where(and(eq(account.role, "coordinator"), accountInForce));
      for (const { name, email } of coordinators)
        await sendNote(
          tx,
          { name, address: email },
          {
            subject: oneHeaderLine(t("member.wrongSays", { who, about })),
            text: [
              t("member.saysThatThisIsWrong", { who, about }),
              "",
              ...body.text.split(/\r?\n/).map((line) => `> ${line}`),
              "",
              ...(person === undefined
                ? []
                : [`${settings.url}/people/${encodeURIComponent(person.id)}`]),
            ].join("\r\n"),
          },
        );
      await record(tx, {
        actor: member,
        action: "says it is wrong",
        sentence: t("member.saysThatThisIsWrong", { who, about }),
      });
    });
    return { done: true as const };
  });

  route(app, context, getMemberArchive, async ({ params, query, member }) => {
    const own = { id: await readable(params.id, member) };
    const rows = await db
      .select(archived)
      .from(post)
      .innerJoin(postList, eq(postList.postId, post.id))
      .innerJoin(message, eq(message.id, post.messageId))
      .where(
        and(
          eq(postList.listId, own.id),
          inArchive,
          query.q === "" ? undefined : sql`${post.words} @@ ${searchOf(query.q)}`,
          query.before === undefined ? undefined : lt(post.at, new Date(query.before)),
        ),
      )
      .orderBy(desc(post.at))
      .limit(POSTS);
    return Promise.all(rows.map(showArchived));
  });

  route(app, context, getMemberPost, async ({ params, member }) => {
    const [row] = await db
      .select({ ...archived, listId: list.id, title: list.title })
      .from(post)
      .innerJoin(postList, eq(postList.postId, post.id))
      .innerJoin(list, eq(list.id, postList.listId))
      .innerJoin(message, eq(message.id, post.messageId))
      .where(and(eq(post.id, params.id), inArchive))
      .limit(1);
    if (row === undefined) throw notFound("post");
    await readable(row.listId, member);
    return { ...(await showArchived(row)), list: { id: row.listId, title: row.title } };
  });

  app.get("/api/member/posts/:id/attachments/:index", async (http) => {
    const member = await findMember(http, context);
    if (member === undefined)
      throw new Refusal(401, "member/signed-out", t("shared.thisPageWasClosedOr"));
    const id = http.req.param("id");
    const [row] = !/^[0-9a-f-]{36}$/i.test(id)
      ? []
      : await db
          .select({ raw: message.raw, listId: postList.listId })
          .from(post)
          .innerJoin(postList, eq(postList.postId, post.id))
          .innerJoin(message, eq(message.id, post.messageId))
          .where(and(eq(post.id, id), inArchive))
          .limit(1);
    if (row === undefined) throw notFound("post");
    await readable(row.listId, member);
    const found = await attachmentOf(row.raw, Number(http.req.param("index")));
    if (found === undefined) throw notFound("attachment");
    return http.body(new Uint8Array(found.content), 200, {
      "Content-Type": "application/octet-stream",
      "Content-Disposition": `attachment; filename*=UTF-8''${encodeURIComponent(found.name)}`,
      "Cache-Control": "no-store",
    });
  });

  route(app, context, getMemberOthers, async ({ params, member }) => {
    const own = await listOn(params.id, member);
    if (own.rules.roster !== "members" || own.rules.seen !== "yes") throw notFound("list");
    const rows = await db
      .select({ address: membership.address })
      .from(membership)
      .where(and(eq(membership.listId, own.id), isNull(membership.validUntil)))
      .orderBy(membership.address)
      .limit(2000);
    const names = await namesBehind(
      db,
      own.seasonId,
      rows.map(({ address }) => address),
    );
    return rows.map(({ address }) => ({ address, name: names.get(address)?.name ?? "" }));
  });

  async function mailLink(address: string): Promise<void> {
    await db.transaction(async (tx) => {
      const [on] = await tx
        .select({ id: membership.id })
        .from(membership)
        .innerJoin(list, eq(list.id, membership.listId))
        .innerJoin(season, eq(season.id, list.seasonId))
        .where(
          and(
            eq(membership.address, address),
            isNull(membership.validUntil),
            isNull(list.closedAt),
            eq(season.current, true),
          ),
        )
        .limit(1);
      const person = on === undefined ? await personAt(tx, address) : undefined;
      if (on === undefined && person === undefined) return;
      const token = await makeLink(tx, { purpose: "member page", address, hours: LINK_HOURS });
      const [own] = await tx.select({ name: house.name }).from(house);
      await sendNote(
        tx,
        { name: "", address },
        {
          subject: t("member.yourListsAt", { name: own?.name ?? "the house" }),
          text: [
            "Hello,",
            "",
            t("member.openYourPageAtHere", { name: own?.name ?? "the house" }),
            `${settings.url}/member/${token}`,
            "",
            t("member.theLinkWorksOnceFor"),
          ].join("\r\n"),
        },
        { what: "link" },
      );
    });
  }

  /** The list, where a member may read its archive: because they are on it, or as anybody inside who finds it. */
  async function readable(id: string, address: string): Promise<string> {
    const [found] = await db
      .select({ rules: list.rules, on: membership.id })
      .from(list)
      .innerJoin(season, eq(season.id, list.seasonId))
      .leftJoin(
        membership,
        and(
          eq(membership.listId, list.id),
          eq(membership.address, address),
          isNull(membership.validUntil),
        ),
      )
      .where(and(eq(list.id, id), isNull(list.closedAt), eq(season.current, true)));
    const [own] = await db.select({ domain: house.insideDomain }).from(house);
    const asMember =
      found?.on != null && (found.rules.archive === "members" || found.rules.archive === "inside");
    const asInside =
      found !== undefined &&
      isInside(address, own?.domain ?? "") &&
      found.rules.archive === "inside" &&
      found.rules.findable === "inside";
    if (!asMember && !asInside) throw notFound("list");
    return id;
  }

  /** A list that a member is on; for any other, nobody is told whether there is one. */
  async function listOn(
    id: string,
    address: string,
  ): Promise<Pick<typeof list.$inferSelect, "id" | "seasonId" | "rules">> {
    const [found] = await db
      .select({ id: list.id, seasonId: list.seasonId, rules: list.rules })
      .from(list)
      .innerJoin(
        membership,
        and(
          eq(membership.listId, list.id),
          eq(membership.address, address),
          isNull(membership.validUntil),
        ),
      )
      .where(and(eq(list.id, id), isNull(list.closedAt)));
    if (found === undefined) throw notFound("list");
    return found;
  }
}
