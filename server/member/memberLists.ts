import { familyLanguage } from "@amigo/language/families";
import { speechHere } from "@amigo/language/texts";
import { nameOf } from "@amigo/core/facts/factIndex";
import { isInside } from "@amigo/core/address/isInside";
import { HOW_OFTEN, type MemberLists } from "@amigo/contract/member";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { childrenAt } from "../membership/childrenAt";
import { whoBelongs } from "../membership/whoBelongs";
import { t } from "../texts/t";
import { loadCurrentSeason, loadHouse } from "../db/houseQueries";
import {
  listOwnLists,
  listLeadNames,
  findPause,
  listOpenTo,
  listLastStates,
  countOn,
} from "./queries";
import { insideDomains } from "../db/insideDomains";

/** Somebody known by an address: a guardian, a student or one of the staff. */
export interface PersonAt {
  id: string;
  name: string;
  addresses: string[];
  children: { name: string; classes: string[] }[];
}

/** Who is known behind an address in the current season. Of several, a guardian first, for the children. */
export async function personAt(db: Queries, address: string): Promise<PersonAt | undefined> {
  const current = await loadCurrentSeason(db);
  if (current === undefined) return undefined;
  const index = await standingIndex(db, current.id);
  const people = [...index.people.values()].filter((person) => person.addresses.has(address));
  const found = people.find(({ role }) => role === "guardian") ?? people[0];
  if (found === undefined) return undefined;
  const children = await childrenAt(db, address);
  return {
    id: found.id,
    name: nameOf(found),
    addresses: [...found.addresses],
    children: children.map(({ name, cohorts }) => ({
      name,
      classes: cohorts.map((cohort) => cohort.name),
    })),
  };
}

/** Everything that the member page shows: lists and why, what can be chosen, addresses, children's classes. */
export async function memberLists(db: Queries, address: string): Promise<MemberLists> {
  const house = await loadHouse(db);
  const person = await personAt(db, address);
  const rows = await listOwnLists(db, address);
  const leads = rows.length === 0 ? [] : await listLeadNames(db, rows);
  const listDomain = house?.listDomain ?? "";
  const lists = await Promise.all(
    rows.map((row) =>
      ownList(db, address, row, {
        leads: leads.filter(({ listId }) => listId === row.id).map(({ name }) => name),
        leadsAddress: `${row.name}+leads@${listDomain}`,
      }),
    ),
  );
  const on = new Set(rows.map(({ id }) => id));
  const pause = await findPause(db, address, house?.timeZone);
  const addresses = person?.addresses.includes(address) === true ? person.addresses : [address];
  return {
    ...settingsOf(house),
    name: person?.name ?? "",
    address,
    lists,
    open: await openTo(db, address, on, isInside(address, await insideDomains(db))),
    pausedUntil: pause?.until ?? "",
    addresses: await statesOf(db, addresses),
    children: person?.children ?? [],
  };
}

/** Returns what the page needs of the house: its name, and how it writes days. */
function settingsOf(house: Awaited<ReturnType<typeof loadHouse>>) {
  const { name = "", timeZone = "UTC" } = house ?? {};
  const { language, locale } = speechHere();
  return { house: name, timeZone, locale, language: familyLanguage(language) ?? ("en" as const) };
}

/** Returns a list that an address is on: why, how often its mail comes, and what its rules let members do. */
async function ownList(
  db: Queries,
  address: string,
  {
    id,
    title,
    description,
    rules,
    howOften,
    ...row
  }: Awaited<ReturnType<typeof listOwnLists>>[number],
  leads: { leads: string[]; leadsAddress: string },
): Promise<MemberLists["lists"][number]> {
  const because = (await whoBelongs(db, row))
    .filter(({ addresses }) => addresses.includes(address))
    .map((belonging) => belonging.because);
  return {
    id,
    title,
    description,
    because: because.length === 0 ? t("member.putOnItByHand") : [...new Set(because)].join("; "),
    howOften: HOW_OFTEN.find((known) => known === (howOften ?? rules.howOften)) ?? "every message",
    mayLeave: rules.leaving === "by oneself",
    ...leads,
    readsArchive: rules.archive === "members" || rules.archive === "inside",
    members: rules.roster === "members" && rules.seen === "yes" ? await countOn(db, id) : null,
  };
}

/** The lists that the owner of an address finds and is not on: where they may come by themselves, or ask. */
async function openTo(
  db: Queries,
  address: string,
  on: ReadonlySet<string>,
  inside: boolean,
): Promise<MemberLists["open"]> {
  if (!inside) return [];
  const rows = await listOpenTo(db, address);
  return rows
    .filter(({ id }) => !on.has(id))
    .map(({ id, title, description, rules, asked }) => ({
      id,
      title,
      description,
      how:
        rules.joining === "inside"
          ? ("join" as const)
          : rules.joining === "request"
            ? ("ask" as const)
            : ("no" as const),
      asked: asked !== null,
      readsArchive: rules.archive === "inside",
    }));
}

/** Whether the last mail to each address arrived. */
async function statesOf(
  db: Queries,
  addresses: readonly string[],
): Promise<MemberLists["addresses"]> {
  const rows = await listLastStates(db, addresses);
  const states = new Map(rows.map((row) => [row.address, row.state]));
  return addresses.map((address) => ({
    address,
    state:
      states.get(address) === "sent"
        ? ("works" as const)
        : states.get(address) === "bounced"
          ? ("bounced" as const)
          : ("not written to yet" as const),
  }));
}
