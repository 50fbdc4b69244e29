import { refused, Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { day } from "@amigo/language/message";
import type { Edit } from "@amigo/core/lists/edit";
import { LIST_POINTS, type ListPoint } from "@amigo/core/lists/listPoint";
import { listKeyParts } from "@amigo/core/lists/listKey";
import type { Exemption } from "@amigo/core/posting/houseRules";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { sendNote } from "../posting/sendNote";
import { addMembersIn, countAdded } from "../change/changeMembers";
import { carryOutGranted } from "../rounds/planEdit";
import type { Editor } from "../rounds/editRights";
import { t } from "../texts/t";
import type { request } from "../db/schema/requests";
import { closeRequest, hasTitle } from "./queries";
import { findNameAndAddress } from "../accounts/queries";
import { loadCurrentSeason } from "../db/houseQueries";
import { listByKey } from "../rounds/queries";
import { lockRounds } from "../change/roundQueries";

type Row = typeof request.$inferSelect;

/** What granting a request changes: what it asks for is allowed to this one list, and its work is done. */
export function editOf(
  row: Pick<Row, "list" | "rule" | "wanted" | "work">,
  by: string,
  until: string,
  isList: boolean,
): Extract<Edit, { what: "lists" }> {
  const exemption: Exemption = { allowed: row.wanted, until, by };
  const point =
    row.rule === "convention" ? "name" : LIST_POINTS.find((listPoint) => listPoint === row.rule);
  const { edit } = row.work;
  if (edit?.what === "lists") {
    const lists = edit.lists.map((list) =>
      list.key === row.list
        ? { ...list, keepUntil: until, allow: { [row.rule]: exemption } }
        : list,
    );
    return { what: "lists", aliasUntil: edit.aliasUntil, lists };
  }
  const points: Partial<Record<ListPoint, string>> =
    point === undefined || !isList ? {} : { [point]: row.wanted };
  return {
    what: "lists",
    aliasUntil: "",
    lists: [{ key: row.list, points, allow: { [row.rule]: exemption } }],
  };
}

/**
 * Says yes to a request, yes until a day, or no. With a yes the list is allowed what was asked, and what waited for it
 * goes on; the asker gets a mail either way.
 *
 * Refused with 409 when somebody has decided on it already.
 */
export async function decideRequest(
  db: Database,
  {
    editor,
    id,
    yes,
    until,
    word,
    url,
  }: { editor: Editor; id: string; yes: boolean; until: string; word: string; url: string },
): Promise<{ done: string } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const row = await closeRequest(tx, yes, editor.name, until, word, id);
    if (row === undefined)
      return refused(409, "request/decided", t("requests.somebodyHasDecidedOnThis"));
    const asker = await findNameAndAddress(tx, row.accountId);
    const what = yes
      ? await grant(tx, editor, row, asker?.name ?? "", until)
      : () => t("requests.saidNo2", { name: editor.name, word });
    if (what instanceof Refused) return what;
    await record(tx, {
      actorId: editor.id,
      actor: editor.name,
      action: yes ? "grant" : "refuse",
      sentence: () =>
        t("requests.whatAskedFor", {
          name: editor.name,
          yes: yes,
          asker: asker?.name ?? t("requests.somebody"),
          title: row.title,
          sentence: row.sentence,
          until: day(until),
        }),
      before: { state: "open" },
      after: { state: row.state, until, word },
    });
    if (asker !== undefined)
      await tell(tx, asker, row, { yes, until, word, what, by: editor.name, url });
    await notify(tx, "house", "board");
    return { done: what() };
  });
}

/** Carries out what was asked for, and what waited for it. Returns what says so, in the language that is spoken then. */
async function grant(
  tx: Queries,
  editor: Editor,
  row: Row,
  asker: string,
  until: string,
): Promise<(() => string) | Refused> {
  const current = await loadCurrentSeason(tx);
  const seasonId = current?.id ?? 0;
  const isList = listKeyParts(row.list) !== undefined || (await hasTitle(tx, seasonId, row.list));
  const wrong = await carryOutGranted(tx, editor, editOf(row, editor.name, until, isList), asker);
  if (wrong instanceof Refused) return wrong;
  const { members } = row.work;
  const found = members === null ? undefined : await listByKey(tx, seasonId, row.list);
  if (members === null || found === undefined)
    return () => t("requests.itWasDone", { until: day(until) });
  const done = await addMembersIn(
    tx,
    { id: row.accountId, name: asker },
    { listId: found.id, ...members, lastDay: members.lastDay === "" ? until : members.lastDay },
  );
  if (done instanceof Refused) return done;
  const { added, asked, already, waiting } = countAdded(done);
  const parts = (): string[] =>
    [
      added > 0 ? t("requests.added", { added }) : "",
      asked > 0 ? t("requests.asked", { asked }) : "",
      already > 0 ? t("requests.thereAlready", { already }) : "",
      waiting > 0 ? t("requests.waitingForALead", { waiting }) : "",
    ].filter((part) => part !== "");
  return () =>
    t("requests.joinIsuntilItHoldsUntil", { parts: parts().join(", "), until: day(until) });
}

async function tell(
  tx: Queries,
  asker: { name: string; email: string },
  row: Row,
  {
    yes,
    until,
    word,
    what,
    by,
    url,
  }: { yes: boolean; until: string; word: string; what: () => string; by: string; url: string },
): Promise<void> {
  const text = (): string =>
    [
      t("shared.hello", { name: asker.name }),
      "",
      t("requests.youAskedFor", { title: row.title, sentence: row.sentence }),
      "",
      yes
        ? t("requests.saidYes", { by, until: day(until), what: what() })
        : t("requests.saidNo", { by }),
      ...(word === "" ? [] : ["", `"${word}"`]),
      "",
      t("requests.seeTheListAndYour", { url }),
    ].join("\r\n");
  await sendNote(tx, { name: asker.name, address: asker.email }, () => ({
    subject: t("requests.isyesYesNoTitle", { yes, title: row.title }),
    text: text(),
  }));
}
