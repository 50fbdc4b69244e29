import { day, message, type Message } from "@amigo/language/message";
import { said, say } from "@amigo/language/say";
import type { VerdictReason } from "@amigo/core/posting/verdict";
import { and, asc, desc, eq, isNotNull, isNull, or, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import { readAddress } from "@amigo/core/address/readAddress";
import { understoodAudience } from "@amigo/core/lists/understood";
import { welcomeNote } from "@amigo/core/mail/greetings";
import { welcomeFaults } from "@amigo/core/mail/welcomeText";
import { POINT_WORDS, type ListPoint } from "@amigo/core/lists/listPoint";
import { wantedList, type WantedList } from "@amigo/core/lists/wantedLists";
import { isHard, nameFaultSentence } from "@amigo/core/naming/nameFault";
import { boundSentence } from "@amigo/core/posting/houseRules";
import { brokenInvariants } from "@amigo/core/posting/invariants/allInvariants";
import { presetOf } from "@amigo/core/posting/presets";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { dayIn, instantAtEndOf } from "@amigo/core/schedule/dayIn";
import type { Greeted } from "@amigo/core/mail/greetings";
import { fold } from "@amigo/core/text/fold";
import {
  deleteKept,
  findLists,
  getAllLists,
  getKept,
  getList,
  getListJournal,
  getMembers,
  postAgree,
  postKept,
  putMemberHowOften,
  postMembers,
  postPasted,
  postTry,
  postTryAll,
  postWelcomePreview,
  putOwnShort,
  type ListPage,
} from "@amigo/contract/lists";
import type { FactIndex } from "@amigo/core/facts/indexFacts";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { houseIndex } from "../facts/standing";
import { notFound, Refusal } from "../http/fault";
import { needCaller, route } from "../http/route";
import { memberCount, openDifferences } from "../membership/counts";
import { record } from "../journal/record";
import { greetedAt, greetingOf } from "../membership/greetingOf";
import { setHowOften } from "../membership/setHowOften";
import { loadList, type LoadedList } from "../membership/loadList";
import { knownAddresses } from "../membership/knownPeople";
import { houseNaming, nameByConvention } from "../membership/nameWanted";
import { changeableBy, foundByStaff, listsOf } from "../membership/scope";
import { whoBelongs } from "../membership/whoBelongs";
import { namesBehind } from "../membership/namesBehind";
import { judge, judgeMany, successorOf } from "../posting/judge";
import { EXPORT_FORMATS, exportLists } from "./exportLists";
import { filterMembers, keptOn, memberTable } from "./memberTable";
import { readPasted } from "./pasted";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { house, season, site } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import {
  list,
  listAddress,
  ownShortName,
  greeting,
  listRole,
  membership,
} from "../db/schema/lists";
import { request } from "../db/schema/requests";
import { journal } from "../db/schema/journal";
import { watch } from "../db/schema/notes";

const MEMBERS_AT_ONCE = 200;
const HITS = 12;
const MOST_EXPORTED = 2000;

export function listRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;

  route(app, context, findLists, async ({ query, caller }) => {
    const [own] = await db.select({ listDomain: house.listDomain }).from(house);
    const words = fold(query.q)
      .split(" ")
      .filter((word) => word !== "");
    const typed = query.q.trim().toLowerCase();
    const rows = await db
      .select({
        id: list.id,
        name: list.name,
        title: list.title,
        short: list.short,
        own: ownShortName.short,
        members: memberCount(),
      })
      .from(list)
      .innerJoin(season, eq(season.id, list.seasonId))
      .leftJoin(
        ownShortName,
        and(eq(ownShortName.listId, list.id), eq(ownShortName.accountId, caller.id)),
      )
      .where(
        and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), foundByStaff)),
      )
      .orderBy(list.title)
      .limit(5000);
    const isNamed = ({ short, own: mine }: { short: string; own: string | null }): boolean =>
      typed !== "" &&
      (mine === typed || short.split(",").some((name) => name.trim().toLowerCase() === typed));
    const found = rows.filter((row) => {
      const pieces = fold(`${row.title} ${row.name} ${row.short} ${row.own ?? ""}`).split(" ");
      return (
        words.every((word) => pieces.some((piece) => piece.startsWith(word))) ||
        row.name.startsWith(typed) ||
        isNamed(row)
      );
    });
    return found
      .sort((a, b) => Number(isNamed(b)) - Number(isNamed(a)))
      .slice(0, HITS)
      .map(({ id, name, title, members }) => ({
        id,
        name,
        title,
        members,
        address: `${name}@${own?.listDomain ?? ""}`,
      }));
  });

  route(app, context, getAllLists, async ({ query, caller }) => {
    const seasons = await db
      .select({ id: season.id, label: season.label, current: season.current })
      .from(season)
      .where(or(eq(season.current, true), isNotNull(season.overOn)))
      .orderBy(desc(season.label));
    const chosen = seasons.find(({ label, current }) =>
      query.season === "" ? current : label === query.season,
    );
    const index = await houseIndex(db, chosen?.id ?? 0);
    const rows = await db
      .select({
        id: list.id,
        key: list.key,
        title: list.title,
        name: list.name,
        site: site.name,
        recipeId: list.recipeId,
        closedAt: list.closedAt,
        apart: list.apart,
        members: memberCount(),
      })
      .from(list)
      .leftJoin(site, eq(site.id, list.siteId))
      .where(and(eq(list.seasonId, chosen?.id ?? 0), listsOf(caller)))
      .orderBy(list.title);
    const leads = await db
      .select({ listId: listRole.listId, name: account.name })
      .from(listRole)
      .innerJoin(account, eq(account.id, listRole.accountId))
      .where(eq(listRole.role, "lead"))
      .orderBy(account.name);
    const byList = new Map<string, string[]>();
    for (const { listId, name } of leads) byList.set(listId, [...(byList.get(listId) ?? []), name]);
    return {
      seasons: seasons.map(({ label, current }) => ({ label, current })),
      lists: rows.map(({ recipeId, closedAt, apart, ...row }) => ({
        ...row,
        site: row.site ?? "",
        recipe: index.recipes.get(recipeId ?? 0)?.name ?? "",
        leads: byList.get(row.id) ?? [],
        state: stateOf({ closedAt, isCurrent: chosen?.current ?? false }),
        apart: apart.length > 0,
      })),
    };
  });

  route(app, context, getList, async ({ params, caller }): Promise<ListPage> =>
    listPage(db, await loadList(db, params.id, caller, "seen"), caller),
  );

  route(app, context, getMembers, async ({ params, query, caller }) => {
    const found = await loadList(db, params.id, caller, "seen");
    const [own] = await db.select({ timeZone: house.timeZone }).from(house);
    const members = filterMembers(
      await memberTable(
        db,
        found,
        query.on === "" ? undefined : instantAtEndOf(query.on, own?.timeZone ?? "UTC"),
      ),
      query.q,
    );
    return {
      total: members.length,
      members: members.slice(query.from, query.from + MEMBERS_AT_ONCE),
    };
  });

  route(app, context, getKept, async ({ params, caller }) =>
    keptOn(db, await loadList(db, params.id, caller), undefined),
  );

  route(app, context, postKept, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const address = clean(body.address);
    await mayPutOn(db, found, caller, body.side === "on");
    const { member } = await desk.run("keepAddress", {
      actor: { id: caller.id, name: caller.name },
      keep: {
        listId: found.id,
        address,
        side: body.side,
        reason: body.reason,
        lastDay: body.lastDay,
      },
    });
    return { address, member };
  });

  route(app, context, putMemberHowOften, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const [member] = await db
      .select({ address: membership.address })
      .from(membership)
      .where(
        and(
          eq(membership.listId, found.id),
          eq(membership.address, body.address),
          isNull(membership.validUntil),
        ),
      );
    if (member === undefined) throw notFound("member");
    await setHowOften(db, caller, found.id, member.address, body.howOften);
    return { done: true as const };
  });

  route(app, context, deleteKept, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    await mayPutOn(db, found, caller, false);
    return desk.run("letGo", {
      actor: { id: caller.id, name: caller.name },
      listId: found.id,
      address: body.address,
    });
  });

  route(app, context, postPasted, async ({ params, body, caller }) =>
    readPasted(db, caller, await loadList(db, params.id, caller), body.text),
  );

  route(app, context, postMembers, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const addresses = body.addresses.map(clean);
    await mayPutOn(db, found, caller, true);
    return desk.run("addMembers", {
      actor: { id: caller.id, name: caller.name },
      wanted: {
        listId: found.id,
        addresses,
        how: body.how,
        reason: body.reason,
        lastDay: body.lastDay,
      },
    });
  });

  route(app, context, postWelcomePreview, async ({ body, caller }) => {
    const [first] =
      body.list !== null
        ? [{ id: body.list }]
        : await db
            .select({ id: list.id })
            .from(list)
            .innerJoin(season, eq(season.id, list.seasonId))
            .where(and(eq(season.current, true), isNull(list.closedAt), listsOf(caller)))
            .orderBy(list.title)
            .limit(1);
    if (first === undefined) throw new Refusal(422, "welcome/no-list", t("lists.thereIsNoListYet"));
    const found = await loadList(db, first.id, caller);
    const [own] = await db.select().from(house);
    if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
    const members = await memberTable(db, found, undefined);
    const [member] = body.as.trim() === "" ? members : filterMembers(members, body.as);
    const address = member?.address ?? body.as.trim();
    // Who is behind an address that isn't on the list is told to those who may know of that person.
    const isKnown = member !== undefined || (await knownAddresses(db, caller))(address);
    const greeted: ReadonlyMap<string, Greeted> = isKnown
      ? await greetedAt(db, found, [address], own.name)
      : new Map();
    const note = welcomeNote(
      await greetingOf(db, found, own, context.settings.url, body.text),
      greeted.get(address) ?? {},
    );
    return {
      ...said(note),
      to: address === "" ? t("lists.somebodyWhomNobodyKnows") : address,
      list: found.title,
      faults: said(welcomeFaults(body.text)),
    };
  });

  route(app, context, putOwnShort, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    await db
      .delete(ownShortName)
      .where(
        and(
          eq(ownShortName.accountId, caller.id),
          or(eq(ownShortName.listId, found.id), eq(ownShortName.short, body.short)),
        ),
      );
    if (body.short !== "")
      await db
        .insert(ownShortName)
        .values({ accountId: caller.id, listId: found.id, short: body.short });
    return { short: body.short };
  });

  app.get("/api/lists/export/:format", async (http) => {
    const caller = await needCaller(http, context, "see lists");
    const format = EXPORT_FORMATS.find((known) => known === http.req.param("format"));
    if (format === undefined)
      throw new Refusal(
        400,
        "bad-request",
        t("lists.thereIsNoSuchFormat", { formats: EXPORT_FORMATS.join(", ") }),
      );
    const ids = (http.req.query("lists") ?? "")
      .split(",")
      .filter((id) => /^[0-9a-f-]{36}$/i.test(id))
      .slice(0, MOST_EXPORTED);
    if (ids.length === 0) throw new Refusal(400, "bad-request", t("lists.nameTheListsToExport"));
    const lists: Parameters<typeof exportLists>[0][number][] = [];
    for (const id of ids) {
      const found = await loadList(db, id, caller);
      lists.push({
        title: found.title,
        address: `${found.name}@${found.listDomain}`,
        description: found.description,
        members: filterMembers(await memberTable(db, found, undefined), http.req.query("q") ?? ""),
      });
    }
    const { bytes, type } = exportLists(lists, format);
    await record(
      db,
      ...ids.map((listId, at) => ({
        actorId: caller.id,
        actor: caller.name,
        action: "export list" as const,
        listId,
        sentence: t("lists.exportedAs", {
          name: caller.name,
          title: lists[at]?.title ?? "",
          format,
        }),
      })),
    );
    const name =
      lists.length === 1 ? (lists[0]?.address.split("@")[0] ?? "list") : `${lists.length}-lists`;
    return http.body(new Uint8Array(bytes), 200, {
      "Content-Type": type,
      "Content-Disposition": `attachment; filename="${name}.${format}"`,
      "Cache-Control": "no-store",
    });
  });

  route(app, context, getListJournal, async ({ params, caller }) => {
    const found = await loadList(db, params.id, caller);
    const rows = await db
      .select({ id: journal.id, at: journal.at, actor: journal.actor, sentence: journal.sentence })
      .from(journal)
      .where(eq(journal.listId, found.id))
      .orderBy(desc(journal.id))
      .limit(100);
    return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
  });

  route(app, context, postTry, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const read = readAddress(body.address, new Map());
    if (read.answer === "unusable")
      throw new Refusal(422, "try/address", noAddress(body.address, read), "address");
    const { verdict, sight, name } = await judge(db, found, read.address, body.proof, {
      isKnown: await knownAddresses(db, caller),
    });
    return {
      outcome: verdict.outcome,
      reaches: verdict.reaches,
      askSender: verdict.askSender,
      who: name,
      reasons: verdict.reasons.map(({ rule, sentence }) => ({
        rule,
        words: say(RULE_WORDS[rule]),
        sentence,
      })),
      sight: { ...sight, reasons: sight.reasons.map(({ sentence }) => sentence) },
    };
  });

  route(app, context, postTryAll, async ({ body, caller }) => {
    const read = readAddress(body.address, new Map());
    if (read.answer === "unusable")
      throw new Refusal(422, "try/address", noAddress(body.address, read), "address");
    const [own] = await db.select({ listDomain: house.listDomain }).from(house);
    const rows = await db
      .select({
        id: list.id,
        title: list.title,
        name: list.name,
        rules: list.rules,
        closedAt: list.closedAt,
        siteId: list.siteId,
      })
      .from(list)
      .innerJoin(season, eq(season.id, list.seasonId))
      .where(and(eq(season.current, true), isNull(list.closedAt), listsOf(caller)))
      .orderBy(list.title);
    const judged = await judgeMany(db, rows, read.address, body.proof, {
      isKnown: await knownAddresses(db, caller),
    });
    return {
      address: read.address,
      who: judged.name,
      lists: rows.map((row) => {
        const { id, title, name } = row;
        const { verdict, sight } = judged.of(row);
        const { reasons: _, ...sees } = sight;
        return {
          id,
          title,
          address: `${name}@${own?.listDomain ?? ""}`,
          outcome: verdict.outcome,
          reaches: verdict.reaches,
          reason: shortReason(verdict.reasons.map(({ sentence }) => sentence)),
          sight: sees,
        };
      }),
    };
  });

  route(app, context, postAgree, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const [own] = await db
      .select({ id: list.id })
      .from(list)
      .where(and(eq(list.id, found.id), changeableBy(caller)));
    if (own === undefined) throw new Refusal(403, "agree/lead", t("lists.aLeadOfThisList"));
    return desk.run("agree", {
      actor: { id: caller.id, name: caller.name },
      listId: found.id,
      ids: body.ids,
      yes: body.agree,
    });
  });
}

/** Who they are to the list, and what decided. */
function shortReason(sentences: readonly string[]): string {
  return [...new Set([sentences[0], sentences[sentences.length - 1]])].join(" ");
}

/** How the interface names what a reason rests on. */
const RULE_WORDS: Readonly<Record<VerdictReason["rule"] | ListPoint, Message>> = {
  sender: message("posting.ofTheSender"),
  proof: message("posting.ofTheProof"),
  spam: message("posting.ofSpam"),
  closed: message("posting.ofClosing"),
  ...POINT_WORDS,
};

/** @throws Refusal 403 when the asker does not lead the list, or its rules let members come by the roster only */
async function mayPutOn(
  db: Queries,
  found: LoadedList,
  caller: Caller,
  isOn: boolean,
): Promise<void> {
  const [own] = await db
    .select({ id: list.id })
    .from(list)
    .where(and(eq(list.id, found.id), changeableBy(caller)));
  if (own === undefined) throw new Refusal(403, "keep/lead", t("lists.leadsOfThisListAnd"));
  if (isOn && found.rules.joining === "roster" && caller.role === "staff")
    throw new Refusal(403, "keep/roster", t("lists.peopleComeOntoThisList"));
}

/** Everything of a list but its members. */
async function listPage(db: Queries, found: LoadedList, caller: Caller): Promise<ListPage> {
  const belonging = await whoBelongs(db, found);
  const members = new Set(
    (
      await db
        .select({ address: membership.address })
        .from(membership)
        .where(and(eq(membership.listId, found.id), isNull(membership.validUntil)))
    ).map(({ address }) => address),
  );
  const running = await db
    .select({ id: account.id, name: account.name, role: listRole.role })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(and(eq(listRole.listId, found.id), accountInForce))
    .orderBy(account.name);
  const named = (role: "lead" | "helper"): string[] =>
    running.filter((own) => own.role === role).map(({ name }) => name);
  const aliases = await db
    .select({ name: listAddress.name, until: listAddress.until })
    .from(listAddress)
    .where(
      and(
        eq(listAddress.listId, found.id),
        eq(listAddress.kind, "alias"),
        sql`not ${listAddress.released}`,
        sql`${listAddress.until} >= current_date`,
      ),
    )
    .orderBy(asc(listAddress.until));
  const difference = (await openDifferences(db)).get(found.key);
  const index = await houseIndex(db, found.seasonId);
  const [settings] = await db.select({ insideDomain: house.insideDomain }).from(house);
  const [mine] = await db
    .select({ id: list.id })
    .from(list)
    .where(and(eq(list.id, found.id), changeableBy(caller)));
  const [seen] = await db
    .select({ id: list.id })
    .from(list)
    .where(and(eq(list.id, found.id), listsOf(caller)));
  const [watched] = await db
    .select({ about: watch.about })
    .from(watch)
    .where(and(eq(watch.accountId, caller.id), eq(watch.what, "list"), eq(watch.about, found.id)));
  const wanted = wantedList(index, found.key);
  const broken =
    wanted === undefined || found.closedAt !== null
      ? []
      : brokenInvariants(
          {
            kind: found.kind,
            rules: found.rules,
            hasLead: running.some(({ role }) => role === "lead"),
            insideDomain: settings?.insideDomain ?? "",
          },
          index.invariantsOff,
        ).map(({ sentence }) => sentence);
  const recipe = found.recipeId === null ? undefined : index.recipes.get(found.recipeId);
  const [own] = await db
    .select({ short: ownShortName.short })
    .from(ownShortName)
    .where(and(eq(ownShortName.listId, found.id), eq(ownShortName.accountId, caller.id)));
  const [asked] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(greeting)
    .where(and(eq(greeting.listId, found.id), eq(greeting.kind, "ask"), isNull(greeting.answer)));
  const understood = understoodAudience(found.audience);
  // What "this class" is on this very list.
  const meant = wanted?.audience;
  const successor =
    found.closedAt === null
      ? undefined
      : await successorOf(
          db,
          (await db.select({ key: list.successorKey }).from(list).where(eq(list.id, found.id)))[0]
            ?.key ?? "",
        );
  const waiting = await db
    .select({
      id: greeting.id,
      address: greeting.address,
      by: greeting.by,
      reason: greeting.reason,
      at: greeting.at,
    })
    .from(greeting)
    .where(and(eq(greeting.listId, found.id), eq(greeting.kind, "agree"), isNull(greeting.answer)))
    .orderBy(asc(greeting.at));
  const names = await namesBehind(
    db,
    found.seasonId,
    waiting.map(({ address }) => address),
  );
  const requests = await db
    .select({ id: request.id, sentence: request.sentence, by: account.name, at: request.at })
    .from(request)
    .innerJoin(account, eq(account.id, request.accountId))
    .where(and(eq(request.list, found.key), eq(request.state, "open")));
  return {
    id: found.id,
    key: found.key,
    name: found.name,
    address: `${found.name}@${found.listDomain}`,
    aliases: aliases.map(({ name, until }) => ({ name, until: until ?? "" })),
    title: found.title,
    description: found.description,
    short: found.short,
    ownShort: own?.short ?? "",
    watching: watched !== undefined,
    cohort: found.cohort ?? "",
    site: found.site ?? "",
    season: found.season,
    state: stateOf(found),
    successor:
      successor === undefined
        ? null
        : {
            id: successor.id,
            title: successor.title,
            address: `${successor.name}@${found.listDomain}`,
          },
    recipe:
      recipe === undefined || found.recipeId === null
        ? null
        : { id: found.recipeId, name: recipe.name },
    audience: found.audience,
    audienceSentence:
      found.audience === ""
        ? t("lists.thoseWhoArePutOn")
        : understood.ok
          ? say(audienceSentence(meant ?? understood.audience))
          : say(understood.fault.sentence),
    preset: { id: found.preset, name: say(presetOf(found.preset, index.presets).name) },
    kind: found.kind,
    rules: found.rules,
    notes: wanted === undefined ? [] : notesOf(wanted, index),
    broken: said(broken),
    adding: found.adding,
    apart: found.apart.map((point) => ({ point, words: say(POINT_WORDS[point]) })),
    breach: found.isCurrent && found.closedAt === null ? await breachOf(db, found, index) : null,
    asked: asked?.count ?? 0,
    members: members.size,
    people: belonging.filter(({ addresses }) => addresses.some((address) => members.has(address)))
      .length,
    families: new Set(
      belonging
        .filter(({ addresses }) => addresses.some((address) => members.has(address)))
        .map(({ family }) => family),
    ).size,
    unreachable: belonging
      .filter(({ addresses }) => addresses.length === 0)
      .map(({ name, because, where }) => ({
        name,
        because: where === "" ? because : `${because} · ${where}`,
      })),
    joins: difference?.joins ?? 0,
    leaves: difference?.leaves ?? 0,
    leads: named("lead"),
    helpers: named("helper"),
    may: {
      change: mine !== undefined && found.isCurrent,
      add:
        mine !== undefined &&
        found.closedAt === null &&
        !(found.rules.joining === "roster" && caller.role === "staff"),
      decide: mine !== undefined || running.some(({ id }) => id === caller.id),
      see: seen !== undefined,
    },
    waiting: waiting.map(({ at, ...row }) => ({
      ...row,
      name: names.get(row.address)?.name ?? "",
      at: at.toISOString(),
    })),
    requests: requests.map(({ at, ...row }) => ({ ...row, at: at.toISOString() })),
  };
}

/** What stands beside the rules of a list: the house rule that keeps it from what was chosen, and what somebody has allowed it. */
function notesOf(wanted: WantedList, index: FactIndex): ListPage["notes"] {
  const allowed = [...(index.exemptions.get(wanted.key) ?? [])].flatMap(([ref, { by, until }]) => {
    const rule = RULE_IDS.find((id) => id === ref);
    return rule === undefined
      ? []
      : [{ rule, sentence: t("lists.allowedBy", { by, until: day(until) }) }];
  });
  const refused = wanted.refused.map(({ rule, chosen, bound }) => ({
    rule,
    sentence: t("lists.wasChosen", {
      kind: boundSentence(wanted.kind, rule, bound),
      rule: wordsOf(rule, chosen),
    }),
  }));
  return [...allowed, ...refused];
}

/** How a list breaches the naming convention, with what it would be called. */
async function breachOf(
  db: Queries,
  found: LoadedList,
  index: Awaited<ReturnType<typeof houseIndex>>,
): Promise<ListPage["breach"]> {
  const wanted = wantedList(index, found.key);
  if (wanted === undefined) return null;
  const naming = await houseNaming(db, found.seasonId, dayIn(found.timeZone, new Date()));
  const [made] = nameByConvention([wanted], index, naming);
  if (made === undefined || made.name === "") return null;
  const [fault] = made.name === found.name ? made.faults : [];
  if (fault !== undefined)
    return {
      sentence: say(nameFaultSentence(fault, found.name, naming.rules)),
      proposal: made.proposal,
    };
  const wants = made.faults.some(isHard) ? made.proposal : made.name;
  return wants === found.name || found.recipeId === null
    ? null
    : { sentence: t("lists.byTheConventionThisList", { wants }), proposal: wants };
}

function stateOf({
  closedAt,
  isCurrent,
}: {
  closedAt: Date | null;
  isCurrent: boolean;
}): ListPage["state"] {
  return closedAt === null ? "open" : isCurrent ? "closed" : "season over";
}

function clean(written: string): string {
  const read = readAddress(written, new Map());
  if (read.answer !== "clean")
    throw new Refusal(422, "keep/address", noAddress(written, read), "address");
  return read.address;
}
