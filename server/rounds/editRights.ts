import type { HouseRole } from "@amigo/core/access/may";
import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import { nameOf, type FactIndex } from "@amigo/core/facts/factIndex";
import type { Edit } from "@amigo/core/lists/edit";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { wantedList, type WantedList } from "@amigo/core/lists/wantedLists";
import { staffId } from "@amigo/core/facts/subjects";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { refused, type Refused } from "../refused";
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
 * Returns where an edit goes beyond what somebody may: a coordinator may do everything; a site coordinator the lists of their site; and
 * both they and the staff lists of their own, which they lead, of people whom they know from the lists that they see.
 */
export async function checkRights(
  tx: Queries,
  edit: Edit,
  editor: Editor,
  standing: FactIndex,
  after: FactIndex,
  seasonId: number,
): Promise<Refused | undefined> {
  if (editor.role === "coordinator") return undefined;
  if (edit.what !== "lists") return coordinatorOnly();
  const keys = edit.lists.map(({ key }) => key);
  const rows = await listRolesAmong(tx, editor.id, seasonId, keys);
  const there = new Map(rows.map((row) => [row.key, row]));
  const [site] = editor.siteId === null ? [] : await findSite(tx, editor.siteId);
  for (const { key, points, allow } of edit.lists) {
    if (allow !== undefined && Object.keys(allow).length > 0) return coordinatorOnly();
    const wanted = wantedList(after, key);
    const row = there.get(key);
    const isAtSite = site !== undefined && wanted?.site === site.name;
    const beyond =
      row === undefined
        ? checkNewList(editor, key, points.leads ?? "", isAtSite)
        : checkLed(editor, row, wanted?.title);
    if (beyond !== undefined) return beyond;
    const isSame =
      (points.audience ?? "") === "" ||
      standing.lists.get(key)?.get("audience") === points.audience;
    if (wanted === undefined || isSame) continue;
    const strangers = await checkStrangers(tx, editor, wanted, after);
    if (strangers !== undefined) return strangers;
  }
  return undefined;
}

function coordinatorOnly(): Refused {
  return refused(403, "edit/reach", t("rounds.onlyACoordinatorCanChange"));
}

/** Returns a refusal where somebody neither leads a list nor looks after it as its site's coordinator. */
function checkLed(
  editor: Editor,
  { role, siteId }: { role: string | null; siteId: number | null },
  title: string | undefined,
): Refused | undefined {
  const isOfSite =
    editor.role === "site coordinator" && siteId !== null && siteId === editor.siteId;
  if (role !== "lead" && !isOfSite)
    return refused(
      403,
      "edit/reach",
      t("rounds.youDoNotLeadSo", { title: title ?? t("rounds.thisList") }),
    );
  return undefined;
}

/** Returns a refusal of a new list of a recipe at another site, or one that somebody else would lead. */
function checkNewList(
  editor: Editor,
  key: string,
  leads: string,
  isAtSite: boolean,
): Refused | undefined {
  if (listKeyParts(key) !== undefined) {
    return editor.role === "site coordinator" && isAtSite ? undefined : coordinatorOnly();
  }
  if (!leads.split(" ").includes(staffId(editor.id)))
    return refused(403, "edit/reach", t("rounds.whoeverMakesAListLeads"), "leads");
  return undefined;
}

/** Returns a refusal of an audience to which people belong whom its editor may not know. */
async function checkStrangers(
  tx: Queries,
  editor: Editor,
  { audience }: WantedList,
  after: FactIndex,
): Promise<Refused | undefined> {
  const known = (await knownPeople(tx, { ...editor, email: "", by: "session" })).people;
  const stranger = whoBelongs(audience, after).find(({ person }) => !known.has(person.id));
  if (stranger !== undefined)
    return refused(
      403,
      "edit/reach",
      t("rounds.thisAudienceReachesPeopleWho", {
        role: after.people.get(stranger.person.id)?.role,
        person: nameOf(stranger.person),
      }),
      "audience",
    );
  return undefined;
}
