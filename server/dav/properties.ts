import type { Caller } from "../callers/caller";
import type { Collection, Item } from "./collection";
import { pathOf, type Place } from "./paths";
import { CALDAV, CALENDAR_SERVER, CARDDAV, dav, xml, type Xml } from "./xml";

/** Something that has properties: a place in the tree, with what stands there. */
export interface Resource {
  place: Place;
  caller: Caller;
  houseName: string;
  collection?: Collection;
  item?: Item;
  /** The version of the whole of a collection (RFC 6578). */
  syncToken?: () => Promise<string>;
}

export interface PropertyName {
  namespace: string;
  name: string;
}

type Property = PropertyName & {
  /** Whether it comes where all are asked for, or only by its name (RFC 4918, section 14.2). */
  isUsual?: boolean;
  /** What it says; undefined where a resource has none of the kind. */
  of: (resource: Resource) => Promise<(Xml | string)[] | undefined> | (Xml | string)[] | undefined;
};

const href = (place: Place): Xml => dav("href", pathOf(place));
const principalOf = ({ caller }: Resource): Xml => href({ at: "principal", account: caller.id });
const reports = (names: readonly Xml[]): Xml[] =>
  names.map((name) => dav("supported-report", dav("report", name)));
const REPORTS = {
  calendar: [xml(CALDAV, "calendar-query"), xml(CALDAV, "calendar-multiget")],
  addressbook: [xml(CARDDAV, "addressbook-query"), xml(CARDDAV, "addressbook-multiget")],
};

/** Every property that a resource can have (RFC 4918, 3744, 4791, 5397, 6352 and 6578). */
const PROPERTIES: readonly Property[] = [
  {
    ...dav("resourcetype"),
    isUsual: true,
    of: ({ place, collection }) => typeOf(place, collection),
  },
  {
    ...dav("displayname"),
    isUsual: true,
    of: ({ place, collection, caller, houseName }) =>
      collection !== undefined && place.at === "collection"
        ? [collection.name]
        : place.at === "principal"
          ? [caller.name]
          : place.at === "item"
            ? undefined
            : [houseName],
  },
  { ...dav("getetag"), isUsual: true, of: ({ item }) => item && [`"${item.version}"`] },
  {
    ...dav("getcontenttype"),
    isUsual: true,
    of: ({ item, collection }) =>
      item && [
        collection?.kind === "calendar"
          ? "text/calendar; charset=utf-8; component=VEVENT"
          : "text/vcard; charset=utf-8",
      ],
  },
  { ...dav("current-user-principal"), of: (resource) => [principalOf(resource)] },
  {
    ...dav("principal-URL"),
    of: (resource) => (resource.place.at === "principal" ? [principalOf(resource)] : undefined),
  },
  {
    ...dav("owner"),
    of: (resource) => (resource.place.at === "root" ? undefined : [principalOf(resource)]),
  },
  { ...dav("principal-collection-set"), of: () => [dav("href", "/dav/principals/")] },
  { ...dav("current-user-privilege-set"), of: privilegesOf },
  {
    ...dav("supported-report-set"),
    of: ({ place, collection }) =>
      place.at === "collection" && collection !== undefined
        ? reports([dav("sync-collection"), ...REPORTS[collection.kind]])
        : [],
  },
  {
    ...dav("sync-token"),
    of: async ({ syncToken }) => (syncToken === undefined ? undefined : [await syncToken()]),
  },
  {
    ...xml(CALENDAR_SERVER, "getctag"),
    of: async ({ syncToken }) => (syncToken === undefined ? undefined : [await syncToken()]),
  },
  {
    ...xml(CALDAV, "calendar-home-set"),
    of: (resource) =>
      resource.place.at === "principal"
        ? [href({ at: "calendars", account: resource.caller.id })]
        : undefined,
  },
  {
    ...xml(CALDAV, "calendar-user-address-set"),
    of: ({ place, caller }) =>
      place.at === "principal" ? [dav("href", `mailto:${caller.email}`)] : undefined,
  },
  {
    ...xml(CALDAV, "supported-calendar-component-set"),
    of: (resource) =>
      isCalendar(resource)
        ? [{ ...xml(CALDAV, "comp"), attributes: { name: "VEVENT" } }]
        : undefined,
  },
  {
    ...xml(CALDAV, "supported-calendar-data"),
    of: (resource) =>
      isCalendar(resource)
        ? [
            {
              ...xml(CALDAV, "calendar-data"),
              attributes: { "content-type": "text/calendar", version: "2.0" },
            },
          ]
        : undefined,
  },
  {
    ...xml(CALDAV, "calendar-description"),
    of: (resource) => (isCalendar(resource) ? [resource.collection?.description ?? ""] : undefined),
  },
  {
    ...xml(CARDDAV, "addressbook-home-set"),
    of: (resource) =>
      resource.place.at === "principal"
        ? [href({ at: "addressbooks", account: resource.caller.id })]
        : undefined,
  },
  {
    ...xml(CARDDAV, "addressbook-description"),
    of: (resource) =>
      isAddressBook(resource) ? [resource.collection?.description ?? ""] : undefined,
  },
  {
    ...xml(CARDDAV, "supported-address-data"),
    of: (resource) =>
      isAddressBook(resource)
        ? (["3.0", "4.0"] as const).map((version) => ({
            ...xml(CARDDAV, "address-data-type"),
            attributes: { "content-type": "text/vcard", version },
          }))
        : undefined,
  },
];

function isCalendar({ place, collection }: Resource): boolean {
  return place.at === "collection" && collection?.kind === "calendar";
}

function isAddressBook({ place, collection }: Resource): boolean {
  return place.at === "collection" && collection?.kind === "addressbook";
}

function typeOf(place: Place, collection: Collection | undefined): Xml[] {
  if (place.at === "item") return [];
  if (place.at === "principal") return [dav("principal"), dav("collection")];
  if (place.at !== "collection" || collection === undefined) return [dav("collection")];
  return [
    dav("collection"),
    collection.kind === "calendar" ? xml(CALDAV, "calendar") : xml(CARDDAV, "addressbook"),
  ];
}

/** What the account may do there (RFC 3744, section 5.5). */
async function privilegesOf({ place, collection }: Resource): Promise<Xml[]> {
  const isWritten =
    (place.at === "collection" || place.at === "item") && (await collection?.mayWrite()) === true;
  const names = [
    "read",
    "read-current-user-privilege-set",
    ...(isWritten ? ["write-content", "bind", "unbind", "write"] : []),
  ];
  return names.map((name) => dav("privilege", dav(name)));
}

/** Returns the names of all properties that are usual, for whoever asks for none by its name. */
export function usualProperties(): PropertyName[] {
  return PROPERTIES.filter(({ isUsual }) => isUsual === true);
}

/** Returns the names of all properties of a resource. */
export async function namesOf(resource: Resource): Promise<PropertyName[]> {
  const names: PropertyName[] = [];
  for (const property of PROPERTIES)
    if ((await property.of(resource)) !== undefined) names.push(property);
  return names;
}

/** Returns a property of a resource as an element; undefined where it has none of the name. */
export async function propertyOf(
  resource: Resource,
  { namespace, name }: PropertyName,
): Promise<Xml | undefined> {
  const value = await PROPERTIES.find(
    (property) => property.namespace === namespace && property.name === name,
  )?.of(resource);
  return value === undefined ? undefined : xml(namespace, name, ...value);
}
