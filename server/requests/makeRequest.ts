import { noSuch, type Refused, refused } from "../refused";
import type { postRequest } from "@amigo/contract/requests";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { POINT_WORDS } from "@amigo/core/lists/listPoint";
import { wantedList } from "@amigo/core/lists/wantedLists";
import { isWithin, boundOf } from "@amigo/core/posting/houseRules";
import { ruleFault, wordsOf } from "@amigo/core/posting/rules/allRules";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { houseAtHand } from "../facts/standing";
import { refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { sendNote } from "../posting/sendNote";
import { planGranted } from "../rounds/planEdit";
import { editorOf } from "../rounds/editRights";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { editOf } from "./decideRequest";
import { loadCurrentSeason } from "../db/houseQueries";
import { findListToAsk, listDeciders, storeRequest } from "./queries";

type Asked = Request<typeof postRequest>["body"];

type ListsEdit = Extract<Asked["work"]["edit"], { what: "lists" }>;

/** The list that a request is about, where there is one already. */
type ListThere = Awaited<ReturnType<typeof findListToAsk>>;

/** Asks a coordinator that a list may be otherwise than the house rules have it. */
export async function makeRequest(
  { db, settings }: Context,
  { body, caller }: Request<typeof postRequest>,
): Promise<Answer<typeof postRequest>> {
  const current = await loadCurrentSeason(db);
  const index = await houseAtHand(db, current?.id ?? 0);
  const there = await findListToAsk(db, caller.id, body.list, current?.id);
  const edit = body.work.edit?.what === "lists" ? body.work.edit : null;
  const made = edit?.lists.find(({ key }) => key === body.list);
  refuse(refuseWrongList(body, caller, there, edit, made));
  refuse(refuseNeedless(body, index, there));
  const title = there?.title ?? made?.points.title ?? body.list;
  // Others read it, too.
  const sentence = inStaffLanguage(() => sentenceOf(body));
  const work = { edit, members: body.work.members };
  // What could not be granted, or reaches beyond what the asker may, is told to the asker, not to a coordinator.
  refuse(
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
    ),
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
      sentence: () => t("requests.askedFor", { name: caller.name, title, sentence, why: body.why }),
    });
    for (const decider of deciders)
      if (decider.email !== caller.email)
        await tellDecider(tx, decider, {
          asker: caller.name,
          title,
          sentence,
          why: body.why,
          url: settings.url,
        });
    await notify(tx, "house", "board");
    return row.id;
  });
  return { id, asked: deciders.map(({ name }) => name) };
}

/** Refuses a request about a list that its asker neither leads nor makes. */
function refuseWrongList(
  body: Asked,
  caller: Caller,
  there: ListThere,
  edit: ListsEdit | null,
  made: ListsEdit["lists"][number] | undefined,
): Refused | undefined {
  const leads =
    there === undefined
      ? made !== undefined && listKeyParts(body.list) === undefined
      : there.role === "lead" ||
        caller.role === "coordinator" ||
        (caller.role === "site coordinator" && there.siteId === caller.siteId);
  if (!leads) return noSuch("list");
  if (edit !== null && (edit.lists.length !== 1 || made === undefined))
    return refused(422, "request/one-list", t("requests.aRequestIsAboutOne"));
  if (
    made !== undefined &&
    there === undefined &&
    caller.role !== "coordinator" &&
    !(made.points.leads ?? "").includes(caller.id)
  )
    return refused(422, "request/lead", t("requests.whoeverMakesAListLeads"), "leads");
  if (body.work.members !== null && there === undefined) return noSuch("list");
}

/** Refuses a value that no rule can have, or that the list has already. */
function refuseNeedless(
  { list, rule, wanted, work }: Asked,
  index: FactIndex,
  there: ListThere,
): Refused | undefined {
  if (rule === "convention") return;
  const fault = ruleFault(rule, wanted);
  if (fault !== undefined) return refused(422, "request/value", fault, "wanted");
  if (there === undefined || work.edit?.what === "lists") return;
  const kind = wantedList(index, list)?.kind ?? "other";
  const exempt = index.exemptions.get(list)?.get(rule);
  const isAllowed =
    isWithin(rule, wanted, boundOf(kind, rule, index.bounds)) ||
    (exempt !== undefined && isWithin(rule, wanted, exempt));
  if (isAllowed && wantedList(index, list)?.rules[rule] === wanted)
    return refused(409, "request/needless", t("requests.theListHasThatAlready"));
}

function sentenceOf({ rule, wanted }: Asked): string {
  return rule === "convention"
    ? t("requests.theNameWhichIsNot", { wanted })
    : t("requests.ruleAndValue", { rule: POINT_WORDS[rule], value: wordsOf(rule, wanted) });
}

/** Mails to somebody who can decide on a request what is asked for, and why. */
async function tellDecider(
  tx: Queries,
  { name, email }: { name: string; email: string },
  asked: { asker: string; title: string; sentence: string; why: string; url: string },
): Promise<void> {
  const { asker, title, sentence, why, url } = asked;
  await sendNote(tx, { name, address: email }, () => ({
    subject: t("requests.asksFor", { name: asker, title }),
    text: [
      t("shared.hello", { name }),
      "",
      t("requests.asksFor2", { name: asker, title, sentence }),
      t("requests.why", { why }),
      "",
      t("requests.seeWhatItWouldDo", { url }),
    ].join("\r\n"),
  }));
}
