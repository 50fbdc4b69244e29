import { inOrder } from "@amigo/language/inOrder";
import { noSuch, refused, Refused } from "../refused";
import type {
  getPrivateLists,
  getPrivateList,
  postPrivateList,
  putPrivateList,
  deletePrivateList,
  PrivateListPage,
} from "@amigo/contract/private";
import { nameOf, type FactIndex } from "@amigo/core/facts/factIndex";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database, Queries } from "../db/connect";
import { inTransaction } from "../db/inTransaction";
import { orRefuse, refuse } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { type Whom, addressesFor } from "../membership/addressesFor";
import { knownPeople } from "../membership/knownPeople";
import { t } from "../texts/t";
import { detailOf } from "./detailOf";
import {
  listPrivateRows,
  storePrivateList,
  findNamesake,
  renamePrivateList,
  storeChildren,
  removePeople,
  removeAllPeople,
  removePrivateList,
  findPrivateList,
  listPrivatePeople,
  storePrivatePeople,
  takeOffShelf,
  nameCard,
} from "./queries";

/** Returns the asker's own private lists. */
export async function listPrivateLists(
  { db }: Context,
  { caller }: Request<typeof getPrivateLists>,
): Promise<Answer<typeof getPrivateLists>> {
  const known = await knownPeople(db, caller);
  const rows = await listPrivateRows(db, caller.id);
  const lists = new Map<string, { id: string; name: string; people: number; gone: number }>();
  for (const { id, name, person } of rows) {
    const list = lists.get(id) ?? { id, name, people: 0, gone: 0 };
    lists.set(id, list);
    if (person === null) continue;
    list.people++;
    if (!known.people.has(person)) list.gone++;
  }
  return [...lists.values()];
}

/** Returns one private list of the asker's. */
export async function showPrivateList(
  { db }: Context,
  { params, caller }: Request<typeof getPrivateList>,
): Promise<Answer<typeof getPrivateList>> {
  return orRefuse(await loadPage(db, params.id, caller));
}

/** Makes a private list. */
export async function makePrivateList(
  { db }: Context,
  { body, caller }: Request<typeof postPrivateList>,
): Promise<Answer<typeof postPrivateList>> {
  return orRefuse(await storeNewPrivateList(db, caller, body.name, body.people));
}

/** Stores a private list of somebody's own, with those of some people whom they may know. */
export async function storeNewPrivateList(
  db: Database,
  caller: Caller,
  name: string,
  people: readonly string[],
  fromProgram?: { davName: string; cardUid: string },
): Promise<{ id: string } | Refused> {
  const known = await knownPeople(db, caller);
  return inTransaction(db, async (tx): Promise<{ id: string } | Refused> => {
    const made = await storePrivateList(tx, caller.id, name);
    if (made === undefined) return isThere(name);
    if (fromProgram !== undefined) await nameCard(tx, made.id, fromProgram);
    await put(tx, made.id, people, known);
    return made;
  });
}

function isThere(name: string): Refused {
  return refused(409, "private/there", t("privateLists.youHaveAPrivateList", { name }), "name");
}

/** Renames a private list, puts people on it or takes them off. */
export async function changePrivateList(
  { db }: Context,
  { params, body, caller }: Request<typeof putPrivateList>,
): Promise<Answer<typeof putPrivateList>> {
  refuse(await storeChangedPrivateList(db, caller, params.id, body));
  return orRefuse(await loadPage(db, params.id, caller));
}

/** Stores changes of a private list of somebody's own. */
export async function storeChangedPrivateList(
  db: Database,
  caller: Caller,
  id: string,
  changes: {
    name?: string | undefined;
    children?: Whom | undefined;
    add: readonly string[];
    remove: string[];
  },
): Promise<Refused | undefined> {
  const own = await ownList(db, id, caller);
  if (own instanceof Refused) return own;
  const known = await knownPeople(db, caller);
  return inTransaction(db, async (tx): Promise<Refused | undefined> => {
    if (changes.name !== undefined) {
      const same = await findNamesake(tx, caller.id, changes.name, id);
      if (same !== undefined) return isThere(changes.name);
      await renamePrivateList(tx, changes.name, id);
    }
    if (changes.children !== undefined) await storeChildren(tx, changes.children, id);
    await put(tx, id, changes.add, known);
    if (changes.remove.length > 0) await removePeople(tx, id, changes.remove);
    return undefined;
  });
}

/** Deletes a private list. */
export async function deletePrivateListOf(
  { db }: Context,
  { params, caller }: Request<typeof deletePrivateList>,
): Promise<Answer<typeof deletePrivateList>> {
  refuse(await forgetPrivateList(db, caller, params.id));
  return { done: true as const };
}

/** Removes a private list of somebody's own. What only its shelf had is on none any more. */
export async function forgetPrivateList(
  db: Database,
  caller: Caller,
  id: string,
): Promise<Refused | undefined> {
  const own = await ownList(db, id, caller);
  if (own instanceof Refused) return own;
  await db.transaction(async (tx) => {
    await takeOffShelf(tx, id);
    await removeAllPeople(tx, id);
    await removePrivateList(tx, id);
  });
  return undefined;
}

async function ownList(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<{ id: string; name: string; children: Whom } | Refused> {
  const privateList = await findPrivateList(db, id, caller.id);
  if (privateList === undefined) return noSuch("privateList");
  return privateList;
}

async function loadPage(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<PrivateListPage | Refused> {
  const list = await ownList(db, id, caller);
  if (list instanceof Refused) return list;
  const known = await knownPeople(db, caller);
  const rows = await listPrivatePeople(db, id);
  const persons = rows
    .map(({ person: subject, name }) => {
      const person = known.people.get(subject);
      return person === undefined
        ? { id: subject, name, detail: t("privateLists.noLongerHere"), addresses: [], gone: true }
        : {
            id: subject,
            name: nameOf(person),
            detail: detailOf(person, known),
            addresses: addressesFor(person, known, list.children),
            gone: false,
          };
    })
    .sort((a, b) => inOrder(a.name, b.name));
  return {
    ...list,
    people: persons.length,
    gone: persons.filter(({ gone }) => gone).length,
    persons,
  };
}

async function put(
  tx: Queries,
  id: string,
  people: readonly string[],
  known: FactIndex,
): Promise<void> {
  const rows = [...new Set(people)].flatMap((subject) => {
    const person = known.people.get(subject);
    return person === undefined
      ? []
      : [{ privateListId: id, person: subject, name: nameOf(person) }];
  });
  if (rows.length > 0) await storePrivatePeople(tx, rows);
}
