import type { CardVersion } from "@amigo/core/contacts/writeCard";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { fault, goneResponse, multiStatus, responseOf } from "./answers";
import type { Item } from "./collection";
import { pathOf, placeOf } from "./paths";
import { namesIn } from "./propfind";
import type { Resource } from "./properties";
import { addressBookFilter, calendarFilter } from "./queryFilters";
import { itemResource } from "./resources";
import { changesSince } from "./syncState";
import {
  CALDAV,
  CARDDAV,
  childOf,
  dav,
  DAV,
  parseXml,
  xml,
  type Xml,
  type XmlElement,
} from "./xml";

/** A collection that a report is about, with the report. */
interface Reported {
  context: Context;
  resource: Resource & { collection: NonNullable<Resource["collection"]> };
  root: XmlElement;
}

/** Answers a report on a calendar or an address book: a query, some things by their paths, or what has changed. */
export async function answerReport(
  context: Context,
  resource: Resource,
  body: string,
): Promise<Response> {
  const root = parseXml(body);
  if (root === undefined) return new Response(null, { status: 400 });
  const { collection } = resource;
  const report = REPORTS[`${root.namespace} ${root.name}`];
  if (report === undefined || collection === undefined || resource.place.at !== "collection")
    return fault(403, dav("supported-report"));
  return report({ context, resource: { ...resource, collection }, root });
}

const REPORTS: Readonly<Record<string, (reported: Reported) => Promise<Response>>> = {
  [`${CALDAV} calendar-query`]: answerQuery,
  [`${CALDAV} calendar-multiget`]: answerMultiget,
  [`${CARDDAV} addressbook-query`]: answerQuery,
  [`${CARDDAV} addressbook-multiget`]: answerMultiget,
  [`${DAV} sync-collection`]: answerSync,
};

/** What meets a filter (RFC 4791, section 7.8; RFC 6352, section 8.6). */
async function answerQuery(reported: Reported): Promise<Response> {
  const { context, resource, root } = reported;
  const isCalendar = resource.collection.kind === "calendar";
  const house = await loadHouse(context.db);
  const filter = isCalendar
    ? calendarFilter(childOf(root, CALDAV, "filter"), house?.timeZone ?? "UTC")
    : addressBookFilter(childOf(root, CARDDAV, "filter"));
  if (filter === undefined)
    return fault(403, xml(isCalendar ? CALDAV : CARDDAV, "supported-filter"));
  const found = (await resource.collection.items()).filter(filter);
  return multiStatus(await responsesOf(reported, found));
}

/** Things by their paths (RFC 4791, section 7.9; RFC 6352, section 8.7). */
async function answerMultiget(reported: Reported): Promise<Response> {
  const { resource, root } = reported;
  const items = new Map((await resource.collection.items()).map((item) => [item.name, item]));
  const responses: Xml[] = [];
  for (const { name, text } of root.children) {
    if (name !== "href") continue;
    const item = items.get(nameIn(text.trim(), resource) ?? "");
    if (item === undefined) responses.push(goneResponse(text.trim()));
    else responses.push(...(await responsesOf(reported, [item])));
  }
  return multiStatus(responses);
}

/** The name of a thing by its path, or its whole address; undefined where it isn't in this collection. */
function nameIn(href: string, { place }: Resource): string | undefined {
  const path = href.replace(/^https?:\/\/[^/]+/i, "");
  const named = placeOf(path);
  return named?.at === "item" && pathOf({ ...named, at: "collection" }) === pathOf(place)
    ? named.name
    : undefined;
}

/** What has changed since a token was given (RFC 6578). */
async function answerSync(reported: Reported): Promise<Response> {
  const { context, resource, root } = reported;
  const path = pathOf(resource.place);
  const token = childOf(root, DAV, "sync-token")?.text.trim() ?? "";
  const items = await resource.collection.items();
  const changes = await changesSince(context.db, resource.caller.id, path, items, token);
  if (changes === undefined) return fault(403, dav("valid-sync-token"));
  const most = Number(childOf(childOf(root, DAV, "limit"), DAV, "nresults")?.text ?? Infinity);
  if (changes.changed.length + changes.gone.length > most)
    return fault(507, dav("number-of-matches-within-limits"));
  const gone = changes.gone.map((name) => goneResponse(`${path}${encodeURIComponent(name)}`));
  return multiStatus([...(await responsesOf(reported, changes.changed)), ...gone], changes.token);
}

/** What some things say about the properties that a report asks for, their content among them. */
async function responsesOf({ resource, root }: Reported, items: readonly Item[]): Promise<Xml[]> {
  const names = namesIn(root) ?? [];
  const { collection, caller } = resource;
  const content = childOf(root, DAV, "prop")?.children.find(
    ({ namespace, name }) =>
      (namespace === CALDAV && name === "calendar-data") ||
      (namespace === CARDDAV && name === "address-data"),
  );
  const version: CardVersion = content?.attributes.get("version") === "4.0" ? "4.0" : "3.0";
  const responses: Xml[] = [];
  for (const item of items) {
    const data =
      content === undefined ? [] : [xml(content.namespace, content.name, item.text(version))];
    responses.push(
      await responseOf(itemResource(resource, caller.id, collection, item), names, data),
    );
  }
  return responses;
}
