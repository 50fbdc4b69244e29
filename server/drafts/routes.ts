import { randomUUID } from "node:crypto";
import { and, asc, desc, eq, isNull, or, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { readAddress } from "@amigo/core/address/readAddress";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/indexFacts";
import { fillMerge } from "@amigo/core/mail/merge";
import { fold } from "@amigo/core/text/fold";
import {
  deleteDraft,
  deleteDraftFile,
  deleteTemplate,
  getDraft,
  getDrafts,
  getTargetMembers,
  getTargets,
  getTemplates,
  postDraftFile,
  postPreview,
  postReckonDraft,
  postSendDraft,
  postTemplate,
  postUnplan,
  putDraft,
  type Draft,
  type TargetHit,
} from "@amigo/contract/drafts";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound, Refusal } from "../http/fault";
import { needCaller, route } from "../http/route";
import { fieldsFor } from "../membership/fieldsFor";
import { memberCount } from "../membership/counts";
import { addressesFor, recipientsFor } from "../membership/addressesFor";
import { knownAddresses, knownPeople } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { namesBehind } from "../membership/namesBehind";
import { foundByStaff, listsOf, seesMembers } from "../membership/scope";
import { cleanHtml, textOf } from "./draftHtml";
import { reckonDraft } from "./reckonDraft";
import { resolveDraft } from "./resolve";
import { ownDraft, sendDraft, sendTest } from "./sendDraft";
import { t } from "../texts/t";
import { season } from "../db/schema/house";
import { list, ownShortName, privateList, membership } from "../db/schema/lists";
import { draft, draftFile, template } from "../db/schema/drafts";

const MOST_DRAFTS = 200;
const MOST_FILES = 20;
const LARGEST_FILE = 15 * 1024 * 1024;
const HITS = 12;
/** How far ahead a mail can be planned, in days. */
const FARTHEST = 400;
const PICTURES = new Set(["image/png", "image/jpeg", "image/gif", "image/webp"]);

/** The composer: drafts as they are written, whom they reach, files, previews, sending now or later. Everybody has their own. */
export function draftRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getDrafts, async ({ caller }) => {
    const rows = await db
      .select()
      .from(draft)
      .where(and(eq(draft.accountId, caller.id), isNull(draft.postId)))
      .orderBy(desc(draft.changedAt))
      .limit(MOST_DRAFTS);
    return Promise.all(rows.map((row) => shown(db, row)));
  });
  route(app, context, getDraft, async ({ params, caller }) =>
    shown(db, await ownDraft(db, caller, params.id)),
  );

  route(app, context, putDraft, async ({ params, body, caller }) => {
    const [kept] = await db
      .insert(draft)
      .values({ id: params.id, accountId: caller.id, content: body })
      .onConflictDoUpdate({
        target: draft.id,
        set: { content: body, changedAt: sql`now()`, fault: "" },
        setWhere: and(eq(draft.accountId, caller.id), isNull(draft.postId)),
      })
      .returning();
    if (kept === undefined)
      throw new Refusal(409, "draft/sent", t("drafts.thisMailWasSentAlready"));
    return shown(db, kept);
  });

  route(app, context, deleteDraft, async ({ params, caller }) => {
    await ownDraft(db, caller, params.id);
    await db.delete(draft).where(eq(draft.id, params.id));
    return { done: true as const };
  });

  route(app, context, postDraftFile, async ({ params, body, caller }) => {
    const own = await ownDraft(db, caller, params.id);
    const files = await filesOf(db, own.id);
    if (files.length >= MOST_FILES)
      throw new Refusal(
        422,
        "draft/files",
        t("drafts.aMailCarriesAtMost", { most: MOST_FILES }),
        "file",
      );
    if (body.file.size > LARGEST_FILE)
      throw new Refusal(
        422,
        "draft/file",
        t("drafts.hasMbAtMostMb", {
          file: body.file.name,
          size: Math.ceil(body.file.size / 1024 / 1024),
          most: LARGEST_FILE / 1024 / 1024,
        }),
        "file",
      );
    const inline = body.inline === "yes";
    if (inline && !PICTURES.has(body.file.type))
      throw new Refusal(
        422,
        "draft/picture",
        t("drafts.isNoPictureThatMail", { name: body.file.name }),
        "file",
      );
    const [made] = await db
      .insert(draftFile)
      .values({
        draftId: own.id,
        name:
          body.file.name.replace(/[\u0000-\u001f\u007f"\\/:*?<>|]/g, "_").slice(0, 120) || "file",
        type: /^[\w.+-]+\/[\w.+-]+$/.test(body.file.type)
          ? body.file.type
          : "application/octet-stream",
        size: body.file.size,
        content: Buffer.from(await body.file.arrayBuffer()),
        cid: inline ? `${randomUUID()}@amigo` : "",
      })
      .returning({
        id: draftFile.id,
        name: draftFile.name,
        type: draftFile.type,
        size: draftFile.size,
        cid: draftFile.cid,
      });
    if (made === undefined) throw notFound("draft");
    return made;
  });

  route(app, context, deleteDraftFile, async ({ params, caller }) => {
    await ownDraft(db, caller, params.id);
    await db
      .delete(draftFile)
      .where(and(eq(draftFile.id, params.file), eq(draftFile.draftId, params.id)));
    return { done: true as const };
  });

  app.get("/api/drafts/:id/files/:file", async (http) => {
    const caller = await needCaller(http, context, "write to lists");
    const [id, file] = [http.req.param("id"), http.req.param("file")];
    const [found] =
      !/^[0-9a-f-]{36}$/i.test(id) || !/^[0-9a-f-]{36}$/i.test(file)
        ? []
        : await db
            .select({ type: draftFile.type, content: draftFile.content, name: draftFile.name })
            .from(draftFile)
            .innerJoin(draft, eq(draft.id, draftFile.draftId))
            .where(and(eq(draftFile.id, file), eq(draft.id, id), eq(draft.accountId, caller.id)));
    if (found === undefined) throw notFound("file");
    const isPicture = PICTURES.has(found.type);
    return http.body(new Uint8Array(found.content), 200, {
      "Content-Type": isPicture ? found.type : "application/octet-stream",
      "Content-Disposition": `${isPicture ? "inline" : "attachment"}; filename*=UTF-8''${encodeURIComponent(found.name)}`,
      "Cache-Control": "no-store",
    });
  });

  route(app, context, postReckonDraft, async ({ body, caller }) =>
    reckonDraft(db, caller, body.content, body.files),
  );

  route(app, context, postPreview, async ({ params, body, caller }) => {
    const own = await ownDraft(db, caller, params.id);
    const resolved = await resolveDraft(db, caller, own.content);
    // Of a list whose members the writer may not see, nobody is shown; how many they are is told by the reckoning.
    const isSeen = await seesMembers(
      db,
      caller,
      resolved.lists.map(({ list: { id } }) => id),
    );
    const addresses = [
      ...new Set([
        ...resolved.people.map(({ address }) => address),
        ...resolved.lists.flatMap((one) => (isSeen.has(one.list.id) ? one.addresses : [])),
      ]),
    ];
    const mayLearn = await knownAddresses(db, caller);
    const [seasonRow] = await db
      .select({ id: season.id })
      .from(season)
      .where(eq(season.current, true));
    const names = await namesBehind(db, seasonRow?.id ?? 0, addresses.slice(0, 500));
    const recipients = addresses.slice(0, 500).map((address) => ({
      address,
      name:
        resolved.people.find((one) => one.address === address)?.name ||
        (mayLearn(address) ? (names.get(address)?.name ?? "") : ""),
    }));
    const chosen = addresses.includes(body.address) ? body.address : (addresses[0] ?? caller.email);
    const fields = fieldsFor([chosen], resolved.known, resolved.house.name).get(chosen) ?? {};
    const of = resolved.lists.find((one) => one.addresses.includes(chosen));
    const html = fillMerge(cleanHtml(own.content.html), fields, "html");
    const asList = own.content.as === "list" || of?.list.rules.from === "list";
    const footer =
      of === undefined || of.list.rules.footer === "" ? "" : `\n\n-- \n${of.list.rules.footer}`;
    return {
      shownTo: chosen,
      subject: fillMerge(own.content.subject, fields, "text"),
      recipients,
      html,
      text: `${textOf(html)}${footer}`,
      from:
        of === undefined
          ? `${caller.name} <${caller.email}>`
          : `${asList ? of.list.title : `${caller.name} via ${of.list.title}`} <${of.list.name}@${of.list.listDomain}>`,
      to:
        of === undefined
          ? own.content.shown
            ? resolved.people
                .filter(({ place }) => place !== "bcc")
                .map(({ address }) => address)
                .join(", ")
            : chosen
          : `${of.list.title} <${of.list.name}@${of.list.listDomain}>`,
    };
  });

  route(app, context, postSendDraft, async ({ params, body, caller }) => {
    const [sent] = await db
      .select({ postId: draft.postId })
      .from(draft)
      .where(and(eq(draft.id, params.id), eq(draft.accountId, caller.id)));
    if (sent?.postId != null)
      return { post: sent.postId, addresses: 0, outcome: "goes out" as const, leavesAt: null };
    const own = await ownDraft(db, caller, params.id);
    if (body.how === "test") {
      await db.transaction((tx) => sendTest(tx, caller, own));
      return { post: null, addresses: 1, outcome: "test" as const, leavesAt: null };
    }
    if (body.how === "now") return sendDraft(context, caller, own, body.asked);
    const at = new Date(body.at ?? "");
    if (
      Number.isNaN(at.getTime()) ||
      at.getTime() < Date.now() ||
      at.getTime() > Date.now() + FARTHEST * 86_400_000
    )
      throw new Refusal(422, "draft/time", t("drafts.chooseATimeThatIs"), "at");
    if (own.content.subject.trim() === "")
      throw new Refusal(422, "draft/subject", t("drafts.giveItASubject"), "subject");
    const reckoned = await reckonDraft(db, caller, own.content, (await filesOf(db, own.id)).length);
    if (reckoned.refused.length > 0)
      throw new Refusal(422, "draft/refused", reckoned.refused.join(" "), "to");
    const open = reckoned.asks.filter(({ id }) => !body.asked.includes(id));
    if (open.length > 0)
      throw new Refusal(
        409,
        "draft/ask",
        open.map(({ sentence }) => sentence).join(" "),
        open[0]?.id ?? "",
      );
    await db.update(draft).set({ sendAt: at, fault: "" }).where(eq(draft.id, own.id));
    return {
      post: null,
      addresses: reckoned.addresses,
      outcome: "waits" as const,
      leavesAt: at.toISOString(),
    };
  });

  route(app, context, postUnplan, async ({ params, caller }) => {
    await ownDraft(db, caller, params.id);
    const [row] = await db
      .update(draft)
      .set({ sendAt: null })
      .where(and(eq(draft.id, params.id), isNull(draft.postId)))
      .returning();
    if (row === undefined) throw new Refusal(409, "draft/sent", t("drafts.itHasGoneOutJust"));
    return shown(db, row);
  });

  route(app, context, getTargets, async ({ query, caller }) => {
    const typed = query.q.trim().toLowerCase();
    const words = fold(query.q)
      .split(" ")
      .filter((word) => word !== "");
    if (typed === "") return [];
    const matches = (text: string): boolean => {
      const pieces = fold(text).split(" ");
      return (
        words.length > 0 && words.every((word) => pieces.some((piece) => piece.startsWith(word)))
      );
    };
    const lists = await db
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
    const isNamed = (row: { short: string; own: string | null }): boolean =>
      row.own === typed || row.short.split(",").some((name) => name.trim().toLowerCase() === typed);
    const listHits = lists
      .filter(
        (row) =>
          matches(`${row.title} ${row.name} ${row.short} ${row.own ?? ""}`) ||
          row.name.startsWith(typed.split("@")[0] ?? typed) ||
          isNamed(row),
      )
      .sort((one, other) => Number(isNamed(other)) - Number(isNamed(one)))
      .map(({ id, name, title, members }): TargetHit => ({
        kind: "list",
        id,
        name: title,
        detail: `${name}, ${members}`,
        many: true,
      }));
    const privates = (
      await db
        .select({ id: privateList.id, name: privateList.name })
        .from(privateList)
        .where(eq(privateList.accountId, caller.id))
        .orderBy(asc(privateList.name))
    )
      .filter(({ name }) => matches(name))
      .map(({ id, name }): TargetHit => ({
        kind: "private",
        id,
        name,
        detail: t("drafts.aPrivateListOfYours"),
        many: true,
      }));
    const known = await knownPeople(db, caller);
    const people = [...known.people.values()]
      .filter(
        (person) =>
          matches(`${nameOf(person)} ${person.number}`) ||
          (typed.length >= 3 && [...person.addresses].some((address) => address.startsWith(typed))),
      )
      .sort((one, other) => nameOf(one).localeCompare(nameOf(other), "en"))
      .slice(0, HITS)
      .map((person): TargetHit => ({
        kind: "person",
        id: person.id,
        name: nameOf(person),
        ...hitDetail(person, known),
        many: false,
      }));
    const read = readAddress(typed, new Map());
    const address =
      read.answer === "clean" && !people.some(({ detail }) => detail === read.address)
        ? [
            {
              kind: "address" as const,
              id: read.address,
              name: read.address,
              detail: t("drafts.thisAddress"),
              many: false,
            },
          ]
        : [];
    return [...listHits.slice(0, HITS), ...privates.slice(0, 5), ...people, ...address].slice(
      0,
      20,
    );
  });

  route(app, context, getTargetMembers, async ({ params, caller }) => {
    const found = await loadList(db, params.id, caller, "seen");
    const rows = await db
      .select({ address: membership.address })
      .from(membership)
      .where(and(eq(membership.listId, found.id), isNull(membership.validUntil)))
      .orderBy(membership.address)
      .limit(2000);
    const names = await namesBehind(
      db,
      found.seasonId,
      rows.map(({ address }) => address),
    );
    return rows.map(({ address }) => ({ address, name: names.get(address)?.name ?? "" }));
  });

  route(app, context, getTemplates, async ({ caller }) => {
    const rows = await db
      .select()
      .from(template)
      .where(or(eq(template.accountId, caller.id), eq(template.shared, true)))
      .orderBy(sql`lower(${template.name})`)
      .limit(200);
    return rows.map(({ id, name, subject, html, shared, accountId }) => ({
      id,
      name,
      subject,
      html: cleanHtml(html),
      shared,
      mine: accountId === caller.id,
    }));
  });
  route(app, context, postTemplate, async ({ body, caller }) => {
    if (body.shared && caller.role !== "coordinator")
      throw new Refusal(403, "template/shared", t("drafts.templatesOfTheWholeHouse"), "shared");
    const [made] = await db.transaction(async (tx) => {
      await tx
        .delete(template)
        .where(
          and(
            eq(template.accountId, caller.id),
            sql`lower(${template.name}) = lower(${body.name})`,
          ),
        );
      return tx
        .insert(template)
        .values({ ...body, html: cleanHtml(body.html), accountId: caller.id })
        .returning();
    });
    if (made === undefined) throw notFound("template");
    return {
      id: made.id,
      name: made.name,
      subject: made.subject,
      html: made.html,
      shared: made.shared,
      mine: true,
    };
  });
  route(app, context, deleteTemplate, async ({ params, caller }) => {
    const [gone] = await db
      .delete(template)
      .where(and(eq(template.id, params.id), eq(template.accountId, caller.id)))
      .returning({ id: template.id });
    if (gone === undefined) throw notFound("template");
    return { done: true as const };
  });

  async function shown(from: Queries, row: typeof draft.$inferSelect): Promise<Draft> {
    return {
      id: row.id,
      content: row.content,
      files: await filesOf(from, row.id),
      sendAt: row.sendAt?.toISOString() ?? null,
      changedAt: row.changedAt.toISOString(),
      fault: row.fault,
    };
  }
}

function filesOf(db: Queries, id: string) {
  return db
    .select({
      id: draftFile.id,
      name: draftFile.name,
      type: draftFile.type,
      size: draftFile.size,
      cid: draftFile.cid,
    })
    .from(draftFile)
    .where(eq(draftFile.draftId, id))
    .orderBy(draftFile.name);
}

/** What stands beside a person who was found: the addresses; for a child, whom of the family mail goes to. */
function hitDetail(person: Person, known: FactIndex): Pick<TargetHit, "detail" | "whom"> {
  const words = (addresses: readonly string[]): string =>
    addresses.length === 0 ? t("shared.noAddress") : say(each(addresses));
  if (person.role !== "student") return { detail: words([...person.addresses]) };
  const guardians = recipientsFor(person, known, "guardians");
  return {
    whom: "guardians",
    detail:
      guardians.length === 0
        ? t("shared.noGuardianIsKnown")
        : t("drafts.to", {
            nameOf: each(guardians.map(nameOf)),
            person: words(addressesFor(person, known, "guardians")),
          }),
  };
}
