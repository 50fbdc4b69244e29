import type { DateContent } from "@amigo/contract/dates";
import { say } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { loadStopped } from "../membership/addressQueries";
import { knownPeople, peoplePrivately } from "../membership/knownPeople";
import { loadList, type LoadedList } from "../membership/loadList";
import { judge } from "../posting/judge";
import { noSuch, refused, Refused } from "../refused";
import { t } from "../texts/t";
import { listInvitable } from "./dateQueries";
import { guestsIn } from "./personalGuests";

/** Whom somebody wants to invite. */
export type Wanted = Pick<DateContent, "lists" | "people" | "privateLists">;

/** Whom an invitation reaches, and why it can't go to some of them. */
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
  { lists: ids, people, privateLists }: Wanted,
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
  const others = await addressesOfOthers(db, caller, people, privateLists);
  if (others instanceof Refused) return others;
  const stopped = await loadStopped(db);
  const addresses = new Set([
    ...(await listInvitable(
      db,
      lists.map(({ id }) => id),
    )),
    ...others,
  ]);
  return {
    lists,
    addresses: [...addresses].filter((address) => !stopped.has(address)),
    refused: why,
  };
}

/** The addresses of people whom somebody may know, and of those on private lists of their own. */
async function addressesOfOthers(
  db: Queries,
  caller: Caller,
  people: readonly string[],
  privateLists: readonly string[],
): Promise<string[] | Refused> {
  if (people.length === 0 && privateLists.length === 0) return [];
  const onLists = await peoplePrivately(db, privateLists, caller);
  if (onLists instanceof Refused) return onLists;
  const known = await knownPeople(db, caller);
  if (people.some((id) => !known.people.has(id))) return noSuch("person");
  const single = guestsIn(
    known,
    people.map((id) => ({ id, whom: "guardians" as const })),
  );
  return [
    ...single.map(({ address }) => address),
    ...onLists.flatMap(({ addresses }) => addresses),
  ];
}

/** Whom somebody invites, where the rules of all lists let them. */
export async function needInvitable(
  db: Queries,
  caller: Caller,
  wanted: Wanted,
): Promise<Invitable | Refused> {
  const { lists, people, privateLists } = wanted;
  if (lists.length + people.length + privateLists.length === 0)
    return refused(422, "date/nobody", t("dates.chooseWhomToInvite"), "lists");
  const found = await whomToInvite(db, caller, wanted);
  if (found instanceof Refused) return found;
  const [why] = found.refused;
  return why === undefined ? found : refused(422, "date/rules", why, "lists");
}
