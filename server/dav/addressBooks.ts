import { createHash } from "node:crypto";
import { nameOf, type Person } from "@amigo/core/facts/factIndex";
import { readCard } from "@amigo/core/contacts/readCard";
import { writeCard, type Contact } from "@amigo/core/contacts/writeCard";
import { callerMay, type Caller } from "../callers/caller";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { knownPeople } from "../membership/knownPeople";
import { listTargets } from "../membership/targetQueries";
import {
  forgetPrivateList,
  storeChangedPrivateList,
  storeNewPrivateList,
} from "../private/privateLists";
import { listPrivateRows } from "../private/queries";
import { Refused, refused } from "../refused";
import { t } from "../texts/t";
import type { Collection, Item } from "./collection";

/** An item of the address book of private lists, with the list that it is. */
interface PrivateItem extends Item {
  /** The private list; undefined for somebody on one. */
  list: { id: string; people: string[] } | undefined;
}

/** The longest name of a private list. */
const LONGEST_NAME = 80;

/**
 * Returns the address books of an account (RFC 6352): the lists that its owner may write to, the people whom they may know, and
 * their private lists, which are the only ones that can be written.
 */
export function addressBooksOf(context: Context, caller: Caller): Collection[] {
  const never = (): Promise<boolean> => Promise.resolve(false);
  return [
    {
      kind: "addressbook",
      id: "lists",
      name: t("dav.lists"),
      description: t("dav.addressBookLists"),
      mayWrite: never,
      items: () => listItems(context, caller),
    },
    {
      kind: "addressbook",
      id: "people",
      name: t("dav.people"),
      description: t("dav.addressBookPeople"),
      mayWrite: never,
      items: () => peopleItems(context, caller),
    },
    {
      kind: "addressbook",
      id: "private",
      name: t("dav.privateLists"),
      description: t("dav.addressBookPrivate"),
      mayWrite: () => Promise.resolve(callerMay(caller, "keep private lists")),
      items: () => privateItems(context, caller),
      store: (name, text, before) =>
        storeGroup(context, caller, text, before as PrivateItem | undefined, name),
      remove: async (item) => {
        const { list } = item as PrivateItem;
        return list === undefined
          ? refused(403, "dav/read-only", t("dav.onlyPrivateListsAreWritten"))
          : forgetPrivateList(context.db, caller, list.id);
      },
    },
  ];
}

async function listItems({ db }: Context, caller: Caller): Promise<Item[]> {
  const house = await loadHouse(db);
  const rows = await listTargets(db, caller);
  return rows.map(({ id, name, title }) =>
    itemOf({
      uid: id,
      kind: "group",
      name: title,
      given: "",
      family: "",
      addresses: [`${name}@${house?.listDomain ?? ""}`],
      note: "",
      category: t("dav.listsCategory"),
      members: [],
    }),
  );
}

async function peopleItems({ db }: Context, caller: Caller): Promise<Item[]> {
  const { people } = await knownPeople(db, caller);
  return [...people.values()].filter(({ addresses }) => addresses.size > 0).map(personItem);
}

function personItem(person: Person): Item {
  return itemOf({
    uid: uidOf(person.id),
    kind: "individual",
    name: nameOf(person),
    given: person.given,
    family: person.family,
    addresses: [...person.addresses].sort(),
    note: "",
    category: "",
    members: [],
  });
}

/** The private lists of an account with the people on them, as far as they are still known. */
async function privateItems({ db }: Context, caller: Caller): Promise<PrivateItem[]> {
  if (!callerMay(caller, "keep private lists")) return [];
  const { people } = await knownPeople(db, caller);
  const lists = new Map<
    string,
    { name: string; people: string[]; file: string | null; uid: string }
  >();
  for (const { id, name, person, davName, cardUid } of await listPrivateRows(db, caller.id)) {
    const list = lists.get(id) ?? { name, people: [], file: davName, uid: cardUid ?? id };
    lists.set(id, list);
    if (person !== null && people.has(person)) list.people.push(person);
  }
  const onThem = new Set([...lists.values()].flatMap((list) => list.people));
  const members = [...people.values()].filter(
    ({ id, addresses }) => onThem.has(id) && addresses.size > 0,
  );
  return [
    ...[...lists].map(([id, list]): PrivateItem => ({
      ...itemOf({
        uid: list.uid,
        kind: "group",
        name: list.name,
        given: "",
        family: "",
        addresses: [],
        note: "",
        category: "",
        members: list.people
          .map((person) => ({
            uid: uidOf(person),
            address: [...(people.get(person)?.addresses ?? [])][0] ?? "",
          }))
          .sort((a, b) => (a.uid < b.uid ? -1 : 1)),
      }),
      ...(list.file === null ? {} : { name: list.file }),
      list: { id, people: list.people },
    })),
    ...members.map((person): PrivateItem => ({ ...personItem(person), list: undefined })),
  ];
}

/** Makes a private list of a group that a program puts here, or changes one. Members whom its owner may not know are left out. */
async function storeGroup(
  { db }: Context,
  caller: Caller,
  text: string,
  before: PrivateItem | undefined,
  file: string,
): Promise<Refused | undefined> {
  const card = readCard(text);
  if (card === undefined) return refused(403, "dav/valid-address-data", t("dav.cantBeRead"));
  if (!card.isGroup || (before !== undefined && before.list === undefined))
    return refused(403, "dav/read-only", t("dav.onlyPrivateListsAreWritten"));
  const name = card.name.replace(/\s+/g, " ").trim().slice(0, LONGEST_NAME);
  if (name === "") return refused(403, "dav/valid-address-data", t("dav.listNeedsAName"));
  const { people } = await knownPeople(db, caller);
  const byUid = new Map([...people.keys()].map((id) => [uidOf(id), id]));
  const wanted = card.members.flatMap((uid) => byUid.get(uid) ?? []);
  if (before?.list === undefined) {
    const made = await storeNewPrivateList(db, caller, name, wanted, {
      davName: file,
      cardUid: card.uid === "" ? file : card.uid,
    });
    return made instanceof Refused ? made : undefined;
  }
  return storeChangedPrivateList(db, caller, before.list.id, {
    name,
    add: wanted.filter((id) => before.list?.people.includes(id) !== true),
    remove: before.list.people.filter((id) => !wanted.includes(id)),
  });
}

function itemOf(contact: Contact): Item {
  return {
    name: `${contact.uid}.vcf`,
    version: hash(JSON.stringify(contact)).slice(0, 32),
    text: (card) => writeCard(contact, card),
    contact,
  };
}

/** The id of a person in address books, made from ours so that it is the same for good (RFC 9562, section 5.8). */
function uidOf(person: string): string {
  const digits = hash(`person ${person}`);
  return [
    digits.slice(0, 8),
    digits.slice(8, 12),
    `8${digits.slice(13, 16)}`,
    `8${digits.slice(17, 20)}`,
    digits.slice(20, 32),
  ].join("-");
}

function hash(text: string): string {
  return createHash("sha256").update(text).digest("hex");
}
