import { and, desc, eq, isNull, or, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { POINT_WORDS } from "@amigo/core/lists/listPoint";
import { wantedList } from "@amigo/core/lists/wantedLists";
import { boundOf, isWithin } from "@amigo/core/posting/houseRules";
import { ruleFault, wordsOf } from "@amigo/core/posting/rules/allRules";
import {
  getRequestEffect,
  getRequests,
  postDecideRequest,
  postRequest,
  postWithdrawRequest,
} from "@amigo/contract/requests";
import { callerMay, type Caller } from "../callers/caller";
import type { Context } from "../context";
import { notify } from "../events/events";
import { houseIndex } from "../facts/standing";
import { notFound, Refusal } from "../http/fault";
import { route } from "../http/route";
import { record } from "../journal/record";
import { sendNote } from "../posting/sendNote";
import { nameOf } from "@amigo/core/facts/indexFacts";
import { knownPeople } from "../membership/knownPeople";
import { decidable } from "../membership/scope";
import { planGranted } from "../rounds/planEdit";
import { editorOf } from "../rounds/reach";
import { editOf } from "./decideRequest";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { season } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { list, listRole } from "../db/schema/lists";
import { request } from "../db/schema/requests";

const SHOWN = 200;

export function requestRoutes(app: Hono, context: Context): void {
  const { db, desk, settings } = context;

  route(app, context, getRequests, async ({ caller }) => {
    const rows = await db
      .select({ request, by: account.name, listId: list.id })
      .from(request)
      .innerJoin(account, eq(account.id, request.accountId))
      .leftJoin(season, eq(season.current, true))
      .leftJoin(list, and(eq(list.key, request.list), eq(list.seasonId, season.id)))
      .where(or(eq(request.accountId, caller.id), decidable(caller)))
      .orderBy(sql`${request.state} <> 'open'`, desc(request.at))
      .limit(SHOWN);
    return rows.map(({ request: row, by, listId }) => ({
      id: row.id,
      list: row.list,
      listId,
      title: row.title,
      rule: row.rule,
      wanted: row.wanted,
      sentence: row.sentence,
      why: row.why,
      by,
      mine: row.accountId === caller.id,
      at: row.at.toISOString(),
      state: row.state,
      decidedBy: row.decidedBy,
      until: row.until,
      word: row.word,
      addresses: (row.work.members?.addresses ?? keptIn(row.work.edit)).length,
      mayDecide: row.state === "open" && mayDecide(caller, row.siteId),
    }));
  });

  route(app, context, postRequest, async ({ body, caller }) => {
    const [current] = await db
      .select({ id: season.id })
      .from(season)
      .where(eq(season.current, true));
    const index = await houseIndex(db, current?.id ?? 0);
    const [there] = await db
      .select({ id: list.id, title: list.title, siteId: list.siteId, role: listRole.role })
      .from(list)
      .leftJoin(listRole, and(eq(listRole.listId, list.id), eq(listRole.accountId, caller.id)))
      .where(
        and(eq(list.key, body.list), eq(list.seasonId, current?.id ?? 0), isNull(list.closedAt)),
      );
    const edit = body.work.edit?.what === "lists" ? body.work.edit : null;
    const made = edit?.lists.find(({ key }) => key === body.list);
    const leads =
      there === undefined
        ? made !== undefined && listKeyParts(body.list) === undefined
        : there.role === "lead" ||
          caller.role === "coordinator" ||
          (caller.role === "site coordinator" && there.siteId === caller.siteId);
    if (!leads) throw notFound("list");
    if (edit !== null && (edit.lists.length !== 1 || made === undefined))
      throw new Refusal(422, "request/one-list", t("requests.aRequestIsAboutOne"));
    if (
      made !== undefined &&
      there === undefined &&
      caller.role !== "coordinator" &&
      !(made.points.leads ?? "").includes(caller.id)
    )
      throw new Refusal(422, "request/lead", t("requests.whoeverMakesAListLeads"), "leads");
    if (body.work.members !== null && there === undefined) throw notFound("list");
    const title = there?.title ?? made?.points.title ?? body.list;
    const kind = wantedList(index, body.list)?.kind ?? "other";
    if (body.rule !== "convention") {
      const bad = ruleFault(body.rule, body.wanted);
      if (bad !== undefined) throw new Refusal(422, "request/value", bad, "wanted");
      const exempt = index.exemptions.get(body.list)?.get(body.rule);
      const isAllowed =
        isWithin(body.rule, body.wanted, boundOf(kind, body.rule, index.bounds)) ||
        (exempt !== undefined && isWithin(body.rule, body.wanted, exempt));
      if (
        there !== undefined &&
        edit === null &&
        isAllowed &&
        wantedList(index, body.list)?.rules[body.rule] === body.wanted
      )
        throw new Refusal(409, "request/needless", t("requests.theListHasThatAlready"));
    }
    const sentence =
      body.rule === "convention"
        ? t("requests.theNameWhichIsNot", { wanted: body.wanted })
        : t("requests.ruleAndValue", {
            rule: POINT_WORDS[body.rule],
            value: wordsOf(body.rule, body.wanted),
          });
    const work = { edit, members: body.work.members };
    // What could not be granted, or reaches beyond what the asker may, is told to the asker, not to a coordinator.
    await planGranted(
      db,
      { ...editorOf(caller), role: "coordinator" },
      editOf(
        { list: body.list, rule: body.rule, wanted: body.wanted, work },
        caller.name,
        "",
        there !== undefined || made !== undefined,
      ),
      edit === null ? undefined : { edit, editor: editorOf(caller) },
    );
    const siteId = there?.siteId ?? null;
    const deciders = await db
      .select({ name: account.name, email: account.email })
      .from(account)
      .where(
        and(
          accountInForce,
          or(
            eq(account.role, "coordinator"),
            siteId === null
              ? sql`false`
              : and(eq(account.role, "site coordinator"), eq(account.siteId, siteId)),
          ),
        ),
      );
    const id = await db.transaction(async (tx) => {
      const [row] = await tx
        .insert(request)
        .values({
          accountId: caller.id,
          list: body.list,
          title,
          siteId,
          rule: body.rule,
          wanted: body.wanted,
          sentence,
          why: body.why,
          work,
        })
        .onConflictDoNothing()
        .returning({ id: request.id });
      if (row === undefined)
        throw new Refusal(409, "request/there", t("requests.somebodyHasAskedForThat"));
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "ask for permission",
        ...(there === undefined ? {} : { listId: there.id }),
        sentence: t("requests.askedFor", { name: caller.name, title, sentence, why: body.why }),
      });
      for (const { name, email } of deciders) {
        if (email === caller.email) continue;
        const text = [
          t("shared.hello", { name }),
          "",
          t("requests.asksFor2", { name: caller.name, title, sentence }),
          `Why: ${body.why}`,
          "",
          t("requests.seeWhatItWouldDo", { url: settings.url }),
        ].join("\r\n");
        await sendNote(
          tx,
          { name, address: email },
          { subject: t("requests.asksFor", { name: caller.name, title }), text },
        );
      }
      await notify(tx, "house", "board");
      return row.id;
    });
    return { id, asked: deciders.map(({ name }) => name) };
  });

  route(app, context, getRequestEffect, async ({ params, caller }) => {
    const row = await openRequest(params.id, caller);
    const { totals, lists } = await planGranted(
      db,
      editorOf(caller),
      editOf(row, caller.name, "", true),
    );
    const { members } = row.work;
    const own = lists.find(({ key }) => key === row.list);
    const sentences = [
      own === undefined
        ? ""
        : own.what === "made"
          ? t("requests.theListIsMade", {
              title: own.title,
              after: own.after,
            })
          : own.points.length > 0
            ? t("requests.listChanges", { title: own.title, points: each(own.points, "comma") })
            : "",
      ...(own?.breaks ?? []).map(say),
      members === null
        ? ""
        : t("requests.thatForIt", { addresses: members.addresses.length, how: members.how }),
    ].filter((sentence) => sentence !== "");
    return {
      sentences: sentences.length === 0 ? [t("requests.theListIsAllowedIt")] : sentences,
      joins: totals.joins + (members?.how === "ask" ? 0 : (members?.addresses.length ?? 0)),
      leaves: totals.leaves,
      waiting: await waitingFor(members?.addresses ?? keptIn(row.work.edit), caller),
    };
  });

  /** The addresses that wait for a yes, with the names of those whom the asker may know. */
  async function waitingFor(
    addresses: readonly string[],
    caller: Caller,
  ): Promise<{ address: string; name: string }[]> {
    if (addresses.length === 0) return [];
    const names = new Map<string, string>();
    for (const person of (await knownPeople(db, caller)).people.values())
      for (const address of person.addresses) names.set(address, nameOf(person));
    return addresses.map((address) => ({ address, name: names.get(address) ?? "" }));
  }

  route(app, context, postDecideRequest, async ({ params, body, caller }) => {
    await openRequest(params.id, caller);
    return desk.run("decideRequest", {
      editor: editorOf(caller),
      id: params.id,
      yes: body.yes,
      until: body.yes ? body.until : "",
      word: body.word,
      url: settings.url,
    });
  });

  route(app, context, postWithdrawRequest, async ({ params, caller }) => {
    const rows = await db
      .update(request)
      .set({ state: "withdrawn", decidedBy: caller.name, decidedAt: sql`now()` })
      .where(
        and(eq(request.id, params.id), eq(request.accountId, caller.id), eq(request.state, "open")),
      )
      .returning({ title: request.title });
    if (rows[0] === undefined) throw notFound("request");
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "withdraw",
      sentence: t("requests.tookBackWhatTheyAsked", { name: caller.name, title: rows[0].title }),
    });
    await notify(db, "house", "board");
    return { done: true as const };
  });

  async function openRequest(id: string, caller: Caller): Promise<typeof request.$inferSelect> {
    const [row] = await db
      .select()
      .from(request)
      .where(and(eq(request.id, id), decidable(caller)));
    if (row === undefined) throw notFound("request");
    if (row.state !== "open")
      throw new Refusal(
        409,
        "request/decided",
        t("requests.thisRequestWasBy", { state: row.state, decidedBy: row.decidedBy }),
      );
    return row;
  }
}

function mayDecide(caller: Caller, siteId: number | null): boolean {
  return (
    callerMay(caller, "decide requests") &&
    (caller.role === "coordinator" || (siteId !== null && siteId === caller.siteId))
  );
}

/** The addresses that come onto lists by an edit. */
function keptIn(edit: (typeof request.$inferSelect)["work"]["edit"]): string[] {
  return edit?.what === "lists" ? edit.lists.flatMap(({ keep }) => keep ?? []) : [];
}
