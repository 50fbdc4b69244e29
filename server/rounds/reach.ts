import type { HouseRole } from "@amigo/core/access/may";
import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import { nameOf, type FactIndex } from "@amigo/core/facts/indexFacts";
import type { Edit } from "@amigo/core/lists/edit";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { wantedList } from "@amigo/core/lists/wantedLists";
import { staffId } from "@amigo/core/step/carryByHand";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import { knownPeople } from "../membership/knownPeople";
import { t } from "../texts/t";
import { listRolesAmong, findSite } from "./reachQueries";

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
export async function checkReach(
  tx: Queries,
  edit: Edit,
  editor: Editor,
  standing: FactIndex,
  after: FactIndex,
  seasonId: number,
): Promise<void> {
  if (editor.role === "coordinator") return;
  if (edit.what !== "lists")
    throw new Refusal(403, "edit/reach", t("rounds.onlyACoordinatorCanChange"));
  const keys = edit.lists.map(({ key }) => key);
  const rows = await listRolesAmong(tx, editor.id, seasonId, keys);
  const there = new Map(rows.map((row) => [row.key, row]));
  const [own] = editor.siteId === null ? [] : await findSite(tx, editor.siteId);
  for (const { key, points, allow } of edit.lists) {
    if (allow !== undefined && Object.keys(allow).length > 0)
      throw new Refusal(403, "edit/reach", t("rounds.onlyACoordinatorCanChange"));
    const row = there.get(key);
    const wanted = wantedList(after, key);
    const isOfSite =
      editor.role === "site coordinator" && own !== undefined && wanted?.site === own.name;
    if (
      row !== undefined &&
      row.role !== "lead" &&
      !(editor.role === "site coordinator" && row.siteId !== null && row.siteId === editor.siteId)
    )
      throw new Refusal(
        403,
        "edit/reach",
        t("rounds.youDoNotLeadSo", { title: wanted?.title ?? t("rounds.thisList") }),
      );
    if (row === undefined && listKeyParts(key) !== undefined && !isOfSite)
      throw new Refusal(403, "edit/reach", t("rounds.onlyACoordinatorCanChange"));
    if (
      row === undefined &&
      listKeyParts(key) === undefined &&
      !(points.leads ?? "").split(" ").includes(staffId(editor.id))
    )
      throw new Refusal(403, "edit/reach", t("rounds.whoeverMakesAListLeads"), "leads");
    if (
      wanted === undefined ||
      (points.audience ?? "") === "" ||
      standing.lists.get(key)?.get("audience") === points.audience
    )
      continue;
    const known = (await knownPeople(tx, { ...editor, email: "", by: "session" })).people;
    const stranger = whoBelongs(wanted.audience, after).find(({ person }) => !known.has(person.id));
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
}
