import { say } from "@amigo/language/say";
import type { Refused } from "../refused";
import { fault } from "./answers";
import type { Collection, Item } from "./collection";
import { CALDAV, CARDDAV, dav, xml, type Xml } from "./xml";

/** The conditions of a request: what must stand there, or that nothing must (RFC 9110, section 13.1). */
export interface Conditions {
  ifMatch: string | undefined;
  ifNoneMatch: string | undefined;
}

/** Puts a thing under a name of a collection, new or changed (RFC 4791, section 5.3.2; RFC 6352, section 6.3.2). */
export async function answerPut(
  collection: Collection,
  name: string,
  text: string,
  conditions: Conditions,
): Promise<Response> {
  const before = (await collection.items()).find((item) => item.name === name);
  if (!isMet(conditions, before)) return new Response(null, { status: 412 });
  if (collection.store === undefined) return fault(403, dav("need-privileges"));
  const refusal = await collection.store(name, text, before);
  // What is kept isn't octet for octet what was sent, so the program asks for it again: there is no ETag.
  return refusal === undefined
    ? new Response(null, { status: before === undefined ? 201 : 204 })
    : refusalOf(refusal, collection);
}

/** Takes a thing away: a date is called off, a private list deleted. */
export async function answerDelete(
  collection: Collection,
  name: string,
  conditions: Conditions,
): Promise<Response> {
  const before = (await collection.items()).find((item) => item.name === name);
  if (before === undefined) return new Response(null, { status: 404 });
  if (!isMet(conditions, before)) return new Response(null, { status: 412 });
  if (collection.remove === undefined) return fault(403, dav("need-privileges"));
  const refusal = await collection.remove(before);
  return refusal === undefined
    ? new Response(null, { status: 204 })
    : refusalOf(refusal, collection);
}

function isMet({ ifMatch, ifNoneMatch }: Conditions, before: Item | undefined): boolean {
  if (ifNoneMatch !== undefined && names(ifNoneMatch, before)) return false;
  return ifMatch === undefined || names(ifMatch, before);
}

/** Whether a list of ETags names what stands there; `*` names whatever does. */
function names(tags: string, item: Item | undefined): boolean {
  if (item === undefined) return false;
  return tags
    .split(",")
    .map((tag) => tag.trim().replace(/^W\//, ""))
    .some((tag) => tag === "*" || tag === `"${item.version}"`);
}

/** A refusal as the condition that isn't met, with its sentence. */
function refusalOf({ status, type, detail }: Refused, { kind }: Collection): Response {
  const named = type.startsWith("dav/") ? type.slice(4) : "";
  const own = kind === "calendar" ? CALDAV : CARDDAV;
  const condition: Xml =
    named === "" || named === "read-only" ? dav("need-privileges") : xml(own, named);
  return fault(status === 409 || status === 422 ? 403 : status, condition, say(detail));
}
