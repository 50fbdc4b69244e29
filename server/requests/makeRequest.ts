import { type postRequest } from "@amigo/contract/requests";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { POINT_WORDS } from "@amigo/core/lists/listPoint";
import { wantedList } from "@amigo/core/lists/wantedLists";
import { isWithin, boundOf } from "@amigo/core/posting/houseRules";
import { ruleFault, wordsOf } from "@amigo/core/posting/rules/allRules";
import type { Context } from "../context";
import { notify } from "../events/events";
import { houseIndex } from "../facts/standing";
import { notFound, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../journal/record";
import { sendNote } from "../posting/sendNote";
import { planGranted } from "../rounds/planEdit";
import { editorOf } from "../rounds/reach";
import { t } from "../texts/t";
import { editOf } from "./decideRequest";
import { loadCurrentSeason } from "../db/houseQueries";
import { findListToAsk, listDeciders, storeRequest } from "./queries";

export async function makeRequest(
  { db, settings }: Context,
  { body, caller }: Request<typeof postRequest>,
): Promise<Answer<typeof postRequest>> {
  const current = await loadCurrentSeason(db);
  const index = await houseIndex(db, current?.id ?? 0);
  const there = await findListToAsk(db, caller.id, body.list, current?.id);
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
  const deciders = await listDeciders(db, siteId);
  const id = await db.transaction(async (tx) => {
    const row = await storeRequest(tx, caller.id, body, title, siteId, sentence, work);
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
}
