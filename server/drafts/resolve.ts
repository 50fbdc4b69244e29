import { refused, Refused } from "../refused";
import type { Said } from "@amigo/language/say";
import { readAddress } from "@amigo/core/address/readAddress";
import { isInside } from "@amigo/core/address/isInside";
import { nameOf, type FactIndex } from "@amigo/core/facts/factIndex";
import { families } from "@amigo/core/identity/families";
import { PLAIN_MESSAGE } from "@amigo/core/posting/mailToJudge";
import { workingAddresses } from "@amigo/core/reach/reach";
import type { Verdict } from "@amigo/core/posting/verdict";
import type { DraftContent, Target } from "@amigo/contract/drafts";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { knownPeople, peoplePrivately } from "../membership/knownPeople";
import { recipientsFor } from "../membership/addressesFor";
import { loadList, type LoadedList } from "../membership/loadList";
import { whoBelongs } from "../membership/whoBelongs";
import { judge } from "../posting/judge";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import type { house } from "../db/schema/house";
import { loadHouse } from "../db/houseQueries";
import { listMemberAddresses } from "../membership/queries";
import { loadStopped } from "../membership/addressQueries";
import { countGettingOtherwise } from "./queries";
import { insideDomains } from "../db/insideDomains";

/** Where somebody stands in the head of a mail. */
type Place = "to" | "cc" | "bcc";

/** A list of a draft, what its rules make of the writer's mail, and who is on it. */
export interface DraftList {
  list: LoadedList;
  place: Place;
  verdict: Said<Verdict>;
  addresses: string[];
}

/** A single recipient beside the lists. */
export interface DraftPerson {
  address: string;
  name: string;
  place: Place;
  family: string;
}

/** A draft with its targets looked up. */
export interface ResolvedDraft {
  house: typeof house.$inferSelect;
  lists: DraftList[];
  people: DraftPerson[];
  /** Families without an address that works. */
  unreachable: Set<string>;
  families: Set<string>;
  known: FactIndex;
}

const MOST_ADDRESSES = 20;

/** Looks up whom a draft is meant for, as its writer may write to them. Faults about what is chosen are refusals. */
export async function resolveDraft(
  db: Queries,
  caller: Caller,
  content: DraftContent,
  size = 0,
  attachments: { type: string; size: number }[] = [],
): Promise<ResolvedDraft | Refused> {
  const house = await loadHouse(db);
  if (house === undefined) return refused(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  const inside = await insideDomains(db);
  const known = await knownPeople(db, caller);
  const familyOf = families(known);
  const stopped = await loadStopped(db);
  const lists: DraftList[] = [];
  const people = new Map<string, DraftPerson>();
  const reached = new Set<string>();
  const unreachable = new Set<string>();
  const leftOut = new Set(content.leftOut);
  const add = (address: string, name: string, place: Place, family: string): void => {
    if (!people.has(address)) people.set(address, { address, name, place, family });
  };
  for (const [place, targets] of [
    ["to", content.to],
    ["cc", content.cc],
    ["bcc", content.bcc],
  ] as const) {
    for (const target of targets) {
      if (target.kind === "list") {
        if (lists.some(({ list }) => list.id === target.id)) continue;
        const found = await resolveList(db, caller, target.id, leftOut, {
          size,
          attachments,
        });
        if (found instanceof Refused) return found;
        const held = new Set(workingAddresses(found.addresses, stopped));
        if (found.addresses.length > 0)
          for (const one of await whoBelongs(db, found.list))
            (one.addresses.some((address) => held.has(address)) ? reached : unreachable).add(
              one.family,
            );
        lists.push({ ...found, place });
        continue;
      }
      const behind = await peopleBehind(db, caller, target, known, inside);
      if (behind instanceof Refused) return behind;
      for (const one of behind) {
        const family = one.person === "" ? one.address : familyOf.get(one.person);
        if (leftOut.has(one.address)) continue;
        const works = one.address !== "" && !stopped.has(one.address);
        (works ? reached : unreachable).add(family);
        if (one.address !== "") add(one.address, one.name, place, family);
      }
    }
  }
  return {
    house: house,
    lists,
    people: [...people.values()],
    families: reached,
    unreachable: new Set([...unreachable].filter((family) => !reached.has(family))),
    known,
  };
}

/** Returns a list with what its rules make of the writer's mail, and the addresses that would get it. */
async function resolveList(
  db: Queries,
  caller: Caller,
  id: string,
  leftOut: ReadonlySet<string>,
  about: { size: number; attachments: { type: string; size: number }[] },
): Promise<Omit<DraftList, "place"> | Refused> {
  const list = await loadList(db, id, caller, "found");
  if (list instanceof Refused) return list;
  const { verdict } = await judge(db, list, caller.email, "signed-in", {
    message: { ...PLAIN_MESSAGE, ...about },
  });
  if (verdict.outcome !== "goes out" || verdict.reaches !== "members")
    return { list, verdict, addresses: [] };
  const addresses = (await listMemberAddresses(db, list.id))
    .map(({ address }) => address)
    .filter((address) => !leftOut.has(address));
  return { list, verdict, addresses };
}

/** The addresses of a single person, of the people on a private list, or one that was typed. An empty address stands for somebody who has none. */
async function peopleBehind(
  db: Queries,
  caller: Caller,
  target: Target,
  known: FactIndex,
  insideDomains: readonly string[],
): Promise<{ address: string; name: string; person: string }[] | Refused> {
  if (target.kind === "private") {
    const kept = await peoplePrivately(db, [target.id], caller);
    if (kept instanceof Refused) return kept;
    return kept.flatMap(({ family, addresses }) =>
      (addresses.length === 0 ? [""] : addresses).map((address) => ({
        address,
        name: "",
        person: family,
      })),
    );
  }
  if (target.kind === "person") {
    const person = known.people.get(target.id);
    if (person === undefined)
      return refused(
        422,
        "draft/person",
        t("drafts.isNoLongerHereOr", { name: target.name }),
        "to",
      );
    const found = recipientsFor(person, known, target.whom ?? "guardians").flatMap((eachPerson) =>
      [...eachPerson.addresses].map((address) => ({
        address,
        name: nameOf(eachPerson),
        person: eachPerson.id,
      })),
    );
    return found.length > 0 ? found : [{ address: "", name: nameOf(person), person: person.id }];
  }
  const read = readAddress(target.id, new Map());
  if (read.answer !== "clean")
    return refused(422, "draft/address", noAddress(target.id, read), "to");
  const person = [...known.people.values()].find(({ addresses }) => addresses.has(read.address));
  const name =
    target.name === target.id ? (person === undefined ? "" : nameOf(person)) : target.name;
  return [
    {
      address: read.address,
      name: isInside(read.address, insideDomains) && person === undefined ? "" : name,
      person: person?.id ?? "",
    },
  ];
}

/** Refuses what can't be sent as it is put together, in the words that the composer shows. */
export function refuseUnsendable(
  { lists, people }: ResolvedDraft,
  content: DraftContent,
  mayLead: (list: LoadedList) => boolean,
): Refused | undefined {
  if (lists.length + people.length === 0)
    return refused(422, "draft/nobody", t("drafts.nobodyIsToGetIt"), "to");
  if (
    [...content.to, ...content.cc, ...content.bcc].filter(({ kind }) => kind === "address").length >
    MOST_ADDRESSES
  )
    return refused(
      422,
      "draft/addresses",
      t("drafts.atMostSingleAddressesFor", { most: MOST_ADDRESSES }),
      "to",
    );
  for (const { list, verdict } of lists) {
    if (verdict.outcome !== "goes out" && verdict.outcome !== "held")
      return refused(
        403,
        "post/refused",
        `${list.title}: ${verdict.reasons.map(({ sentence }) => sentence).join(" ")}`,
        "to",
      );
    if (
      lists.length + people.length > 1 &&
      (verdict.outcome === "held" || verdict.reaches === "leads")
    )
      return refused(
        422,
        "post/alone",
        t("drafts.takesYourMailOtherwiseThan", { title: list.title, outcome: verdict.outcome }),
        "to",
      );
    if (content.as === "list" && !mayLead(list))
      return refused(
        403,
        "draft/as-list",
        t("drafts.leadsAndCoordinatorsWriteAs", { title: list.title }),
        "as",
      );
    if (content.shown && list.rules.seen !== "yes")
      return refused(
        422,
        "draft/shown",
        t("drafts.byItsRulesTheMembers", { title: list.title }),
        "shown",
      );
  }
  if (content.as === "list" && lists.length === 0)
    return refused(422, "draft/as-list", t("drafts.thereIsNoListThat"), "as");
}

/** Of some addresses, who gets it otherwise than at once: in a digest, not while they rest, not at all as mail comes back. */
export async function gettingOtherwise(
  db: Queries,
  lists: readonly DraftList[],
): Promise<{ digests: number; resting: number; stopped: number }> {
  const wanted = lists.flatMap(({ list, addresses }) =>
    addresses.map((address) => ({ l: list.id, a: address })),
  );
  if (wanted.length === 0) return { digests: 0, resting: 0, stopped: 0 };
  const { rows } = await countGettingOtherwise(db, wanted);
  return rows[0] ?? { digests: 0, resting: 0, stopped: 0 };
}
