import type { Context as HonoContext, Hono } from "hono";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import { pathOf, placeOf, ROOT, type Place } from "./paths";
import { answerPropfind, answerProppatch } from "./propfind";
import { answerReport } from "./report";
import { findResource, type Found } from "./resources";
import { signInProgram } from "./signInProgram";
import { answerDelete, answerPut, type Conditions } from "./write";

/** What can be asked for, as programs look it up first (RFC 4918, section 10.1; RFC 4791, section 5.1; RFC 6352, section 6.1). */
const CLASSES = "1, 3, access-control, calendar-access, addressbook";
const METHODS = ["OPTIONS", "GET", "HEAD", "PROPFIND", "PROPPATCH", "REPORT", "PUT", "DELETE"];
const WRITES = ["PUT", "DELETE"];
/** Known methods that nothing here can do. */
const OTHERS = ["MKCOL", "MKCALENDAR", "COPY", "MOVE", "LOCK", "UNLOCK", "POST", "ACL"];

/** Calendars and address books for programs: CalDAV, CardDAV and the well-known addresses that lead there (RFC 6764). */
export function davRoutes(app: Hono, context: Context): void {
  for (const name of ["caldav", "carddav"])
    app.all(`/.well-known/${name}`, (http) => http.redirect(ROOT, 301));
  app.on([...METHODS, ...OTHERS], ["/dav", "/dav/*"], async (http) => {
    const answer = await answerFor(context, http);
    answer.headers.set("DAV", CLASSES);
    answer.headers.set("Cache-Control", "no-store");
    return answer;
  });
}

async function answerFor(context: Context, http: HonoContext): Promise<Response> {
  const { method } = http.req;
  const allow = { Allow: METHODS.join(", ") };
  if (method === "OPTIONS") return answerOptions(context, http);
  const caller = await signInProgram(http, context, "calendars");
  if (caller instanceof Response) return caller;
  if (OTHERS.includes(method)) return new Response(null, { status: 405, headers: allow });
  const place = placeOf(sentPath(http));
  if (place === undefined) return new Response(null, { status: 404 });
  if (WRITES.includes(method)) return answerWrite(context, caller, http, place);
  const found = await findResource(context, caller, place);
  if (found === undefined) return new Response(null, { status: 404 });
  switch (method) {
    case "PROPFIND":
      return answerPropfind(found, http.req.header("Depth"), await http.req.text());
    case "PROPPATCH":
      return answerProppatch(pathOf(found.resource.place), await http.req.text());
    case "REPORT":
      return answerReport(context, found.resource, await http.req.text());
    default:
      return answerGet(found, http);
  }
}

/** What can be asked for there (RFC 9110, section 9.3.7): programs tell by it what they may write, so whoever signs in hears that. */
async function answerOptions(context: Context, http: HonoContext): Promise<Response> {
  const answer = (methods: readonly string[]): Response =>
    new Response(null, { status: 204, headers: { Allow: methods.join(", ") } });
  if ((http.req.header("Authorization") ?? "") === "") return answer(METHODS);
  const caller = await signInProgram(http, context, "calendars");
  if (caller instanceof Response) return caller;
  const place = placeOf(sentPath(http));
  const found = place === undefined ? undefined : await findResource(context, caller, place);
  const isRead = (await found?.resource.collection?.mayWrite()) === false;
  return answer(METHODS.filter((method) => !isRead || !WRITES.includes(method)));
}

/** The path as it was sent: what is written as %25 must be decoded once, not twice. */
function sentPath(http: HonoContext): string {
  return new URL(http.req.url).pathname;
}

async function answerWrite(
  context: Context,
  caller: Caller,
  http: HonoContext,
  place: Place,
): Promise<Response> {
  if (place.at !== "item") return new Response(null, { status: 405 });
  const found = await findResource(context, caller, { ...place, at: "collection" });
  const collection = found?.resource.collection;
  if (collection === undefined) return new Response(null, { status: 409 });
  const conditions: Conditions = {
    ifMatch: http.req.header("If-Match"),
    ifNoneMatch: http.req.header("If-None-Match"),
  };
  return http.req.method === "PUT"
    ? answerPut(collection, place.name, await http.req.text(), conditions)
    : answerDelete(collection, place.name, conditions);
}

function answerGet({ resource }: Found, http: HonoContext): Response {
  const { item, collection } = resource;
  if (item === undefined) return new Response(null, { status: 405 });
  const tag = `"${item.version}"`;
  if (http.req.header("If-None-Match")?.includes(tag) === true)
    return new Response(null, { status: 304, headers: { ETag: tag } });
  const isCard = collection?.kind === "addressbook";
  const version = /version="?4\.0/.test(http.req.header("Accept") ?? "") ? "4.0" : "3.0";
  return new Response(item.text(version), {
    headers: {
      ETag: tag,
      "Content-Type": `${isCard ? "text/vcard" : "text/calendar"}; charset=utf-8`,
    },
  });
}
