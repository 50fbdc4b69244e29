import type { HouseRole } from "@amigo/core/access/may";
import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import { nameOf, type FactIndex } from "@amigo/core/facts/factIndex";
import type { Edit } from "@amigo/core/lists/edit";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { wantedList, type WantedList } from "@amigo/core/lists/wantedLists";
import { staffId } from "@amigo/core/facts/subjects";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import { knownPeople } from "../membership/knownPeople";
import { t } from "../texts/t";
import { listRolesAmong, findSite } from "./editRightsQueries";

/** Who edits lists, and with what right. */
export interface Editor {
  id: string;
  name: string;
  role: HouseRole;
  siteId: number | null;
}

export function editorOf({ id, name, role, siteId }: Caller): Editor {
  return { id, name, role, siteId };
}

/**
 * Refuses an edit beyond what somebody may: a coordinator everything; a site coordinator the lists of their site; and
 * both they and the staff lists of their own, which they lead, of people whom they know from the lists that they see.
 */
export async function refuseBeyondRights(
  tx: Queries,
  edit: Edit,
  editor: Editor,
  standing: FactIndex,
  after: FactIndex,
  seasonId: number,
): Promise<void> {
  if (editor.role === "coordinator") return;
  if (edit.what !== "lists") throw coordinatorOnly();
  const keys = edit.lists.map(({ key }) => key);
  const rows = await listRolesAmong(tx, editor.id, seasonId, keys);
  const there = new Map(rows.map((row) => [row.key, row]));
  const [site] = editor.siteId === null ? [] : await findSite(tx, editor.siteId);
  for (const { key, points, allow } of edit.lists) {
    if (allow !== undefined && Object.keys(allow).length > 0) throw coordinatorOnly();
    const wanted = wantedList(after, key);
    const row = there.get(key);
    if (row !== undefined) refuseNotLed(editor, row, wanted?.title);
    else
      refuseNewList(
        editor,
        key,
        points.leads ?? "",
        site !== undefined && wanted?.site === site.name,
      );
    const isSame =
      (points.audience ?? "") === "" ||
      standing.lists.get(key)?.get("audience") === points.audience;
    if (wanted !== undefined && !isSame) await refuseStrangers(tx, editor, wanted, after);
  }
}

function coordinatorOnly(): Refusal {
  return new Refusal(403, "edit/reach", t("rounds.onlyACoordinatorCanChange"));
}

/** Refuses to change a list that somebody neither leads nor looks after as its site's coordinator. */
function refuseNotLed(
  editor: Editor,
  { role, siteId }: { role: string | null; siteId: number | null },
  title: string | undefined,
): void {
  const isOfSite =
    editor.role === "site coordinator" && siteId !== null && siteId === editor.siteId;
  if (role !== "lead" && !isOfSite)
    throw new Refusal(
      403,
      "edit/reach",
      t("rounds.youDoNotLeadSo", { title: title ?? t("rounds.thisList") }),
    );
}

/** Refuses to make a list of a recipe at another site, or one that somebody else would lead. */
function refuseNewList(editor: Editor, key: string, leads: string, isAtSite: boolean): void {
  if (listKeyParts(key) !== undefined) {
    if (editor.role !== "site coordinator" || !isAtSite) throw coordinatorOnly();
    return;
  }
  if (!leads.split(" ").includes(staffId(editor.id)))
    throw new Refusal(403, "edit/reach", t("rounds.whoeverMakesAListLeads"), "leads");
}

/** Refuses an audience to which people belong whom its editor may not know. */
async function refuseStrangers(
  tx: Queries,
  editor: Editor,
  { audience }: WantedList,
  after: FactIndex,
): Promise<void> {
  const known = (await knownPeople(tx, { ...editor, email: "", by: "session" })).people;
  const stranger = whoBelongs(audience, after).find(({ person }) => !known.has(person.id));
  if (stranger !== undefined)
    throw new Refusal(
      403,
      "edit/reach",
      t("rounds.thisAudienceReachesPeopleWho", {
        role: after.people.get(stranger.person.id)?.role,
        person: nameOf(stranger.person),
      }),
      "audience",
    );
}
