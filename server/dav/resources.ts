import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { addressBooksOf } from "./addressBooks";
import { calendarsOf } from "./calendars";
import type { Collection, Item } from "./collection";
import type { Place } from "./paths";
import type { Resource } from "./properties";
import { syncTokenOf } from "./syncState";

/** What stands at a place of the tree, for an account. */
export interface Found {
  resource: Resource;
  /** What stands below it, where that is asked for. */
  children: () => Promise<Resource[]>;
}

/** Returns what stands at a place; undefined where there is nothing, or nothing of this account's. */
export async function findResource(
  context: Context,
  caller: Caller,
  place: Place,
): Promise<Found | undefined> {
  if (place.at !== "root" && place.account !== caller.id) return undefined;
  const house = await loadHouse(context.db);
  const base = { caller, houseName: house?.name ?? "" };
  const account = caller.id;
  const plain = (at: "principal" | "calendars" | "addressbooks"): Resource => ({
    ...base,
    place: { at, account },
  });
  switch (place.at) {
    case "root":
      return {
        resource: { ...base, place },
        children: () =>
          Promise.resolve([plain("principal"), plain("calendars"), plain("addressbooks")]),
      };
    case "principal":
      return { resource: plain("principal"), children: () => Promise.resolve([]) };
    case "calendars":
    case "addressbooks": {
      const home = place.at;
      return {
        resource: plain(home),
        children: async () =>
          (await collectionsOf(context, caller, home)).map((collection) =>
            collectionResource(base, account, collection),
          ),
      };
    }
    case "collection":
    case "item":
      return findInCollection(context, base, place);
  }
}

type Base = Pick<Resource, "caller" | "houseName">;

async function findInCollection(
  context: Context,
  base: Base,
  place: Extract<Place, { at: "collection" | "item" }>,
): Promise<Found | undefined> {
  const { caller } = base;
  const all = await collectionsOf(
    context,
    caller,
    place.kind === "calendar" ? "calendars" : "addressbooks",
  );
  const collection = all.find(({ id }) => id === place.id);
  if (collection === undefined) return undefined;
  if (place.at === "collection")
    return {
      resource: collectionResource(base, caller.id, collection),
      children: async () =>
        (await collection.items()).map((item) => itemResource(base, caller.id, collection, item)),
    };
  const item = (await collection.items()).find(({ name }) => name === place.name);
  return item === undefined
    ? undefined
    : {
        resource: itemResource(base, caller.id, collection, item),
        children: () => Promise.resolve([]),
      };
}

function collectionsOf(
  context: Context,
  caller: Caller,
  home: "calendars" | "addressbooks",
): Promise<Collection[]> {
  return home === "calendars"
    ? calendarsOf(context, caller)
    : Promise.resolve(addressBooksOf(context, caller));
}

function collectionResource(base: Base, account: string, collection: Collection): Resource {
  // It is asked for under two names, and looks at everything in the collection.
  let token: Promise<string> | undefined;
  return {
    ...base,
    place: { at: "collection", kind: collection.kind, account, id: collection.id },
    collection,
    syncToken: () => (token ??= collection.items().then(syncTokenOf)),
  };
}

/** Returns a thing of a collection as a resource. */
export function itemResource(
  base: Base,
  account: string,
  collection: Collection,
  item: Item,
): Resource {
  return {
    ...base,
    place: { at: "item", kind: collection.kind, account, id: collection.id, name: item.name },
    collection,
    item,
  };
}
