import { orRefuse } from "../http/fault";
import type { getRequestEffect } from "@amigo/contract/requests";
import { nameOf } from "@amigo/core/facts/factIndex";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import type { Request, Answer } from "../http/handler";
import { knownPeople } from "../membership/knownPeople";
import { planGranted } from "../rounds/planEdit";
import { editorOf } from "../rounds/editRights";
import { t } from "../texts/t";
import { editOf } from "./decideRequest";
import { openRequest } from "./openRequest";
import { keptAddresses } from "./keptAddresses";

/** The addresses that wait for a yes, with the names of those whom the asker may know. */
async function waitingFor(
  db: Database,
  addresses: readonly string[],
  caller: Caller,
): Promise<{ address: string; name: string }[]> {
  if (addresses.length === 0) return [];
  const names = new Map<string, string>();
  for (const person of (await knownPeople(db, caller)).people.values())
    for (const address of person.addresses) names.set(address, nameOf(person));
  return addresses.map((address) => ({ address, name: names.get(address) ?? "" }));
}

/** Returns what saying yes to a request would do. */
export async function previewRequest(
  { db }: Context,
  { params, caller }: Request<typeof getRequestEffect>,
): Promise<Answer<typeof getRequestEffect>> {
  const row = orRefuse(await openRequest(db, params.id, caller));
  const { totals, lists } = orRefuse(
    await planGranted(db, editorOf(caller), editOf(row, caller.name, "", true)),
  );
  const { members } = row.work;
  const list = lists.find(({ key }) => key === row.list);
  const sentences = [
    list === undefined
      ? ""
      : list.what === "made"
        ? t("requests.theListIsMade", {
            title: list.title,
            after: list.after,
          })
        : list.points.length > 0
          ? t("requests.listChanges", { title: list.title, points: each(list.points, "comma") })
          : "",
    ...(list?.breaks ?? []).map(say),
    members === null
      ? ""
      : t("requests.thatForIt", { addresses: members.addresses.length, how: members.how }),
  ].filter((sentence) => sentence !== "");
  return {
    sentences: sentences.length === 0 ? [t("requests.theListIsAllowedIt")] : sentences,
    joins: totals.joins + (members?.how === "ask" ? 0 : (members?.addresses.length ?? 0)),
    leaves: totals.leaves,
    waiting: await waitingFor(db, members?.addresses ?? keptAddresses(row.work.edit), caller),
  };
}
