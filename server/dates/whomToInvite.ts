import { say } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { loadStopped } from "../membership/addressQueries";
import { loadList, type LoadedList } from "../membership/loadList";
import { judge } from "../posting/judge";
import { refused, Refused } from "../refused";
import { t } from "../texts/t";
import { listInvitable } from "./dateQueries";

/** Whom an invitation to some lists reaches, and why it can't go to some of them. */
export interface Invitable {
  lists: LoadedList[];
  addresses: string[];
  /** A sentence for each list whose rules stand in the way. */
  refused: string[];
}

/**
 * Works out whom somebody invites with some lists. Whoever may write to a list's members may invite them: its posting rules
 * decide, as they would of a mail.
 */
export async function whomToInvite(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<Invitable | Refused> {
  const lists: LoadedList[] = [];
  const why: string[] = [];
  for (const id of new Set(ids)) {
    const list = await loadList(db, id, caller, "found");
    if (list instanceof Refused) return list;
    const { verdict } = await judge(db, list, caller.email, "signed-in");
    if (list.closedAt !== null) why.push(t("dates.listIsClosed", { title: list.title }));
    else if (verdict.outcome === "goes out" && verdict.reaches === "members") lists.push(list);
    else
      why.push(
        t("dates.rulesDontLetYouInvite", {
          title: list.title,
          reason: say(verdict.reasons.at(-1)?.sentence ?? ""),
        }),
      );
  }
  const stopped = await loadStopped(db);
  const addresses = await listInvitable(
    db,
    lists.map(({ id }) => id),
  );
  return { lists, addresses: addresses.filter((address) => !stopped.has(address)), refused: why };
}

/** Whom somebody invites, where the rules of all lists let them. */
export async function needInvitable(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<Invitable | Refused> {
  const found = await whomToInvite(db, caller, ids);
  if (found instanceof Refused) return found;
  const [why] = found.refused;
  return why === undefined ? found : refused(422, "date/rules", why, "lists");
}
