import { pathOf } from "./paths";
import { propertyOf, type PropertyName, type Resource } from "./properties";
import { dav, writeXml, xml, type Xml } from "./xml";

const XML = { "Content-Type": "application/xml; charset=utf-8" };

/** Answers with the state of several resources (RFC 4918, section 13). */
export function multiStatus(responses: readonly Xml[], syncToken?: string): Response {
  const token = syncToken === undefined ? [] : [dav("sync-token", syncToken)];
  return new Response(writeXml(dav("multistatus", ...responses, ...token)), {
    status: 207,
    headers: XML,
  });
}

/** Answers that something isn't done, with the condition that isn't met (RFC 4918, section 16), and a sentence for people. */
export function fault(status: number, condition: Xml, sentence = ""): Response {
  const words = sentence === "" ? [] : [dav("responsedescription", sentence)];
  return new Response(writeXml(dav("error", condition, ...words)), { status, headers: XML });
}

/** Returns what a resource says about some properties: those that it has, and those that it hasn't. */
export async function responseOf(
  resource: Resource,
  names: readonly PropertyName[],
  more: readonly Xml[] = [],
): Promise<Xml> {
  const found: Xml[] = [...more];
  const missing: Xml[] = [];
  for (const name of names) {
    if (more.some((one) => one.namespace === name.namespace && one.name === name.name)) continue;
    const property = await propertyOf(resource, name);
    if (property === undefined) missing.push(xml(name.namespace, name.name));
    else found.push(property);
  }
  return dav(
    "response",
    dav("href", pathOf(resource.place)),
    ...(found.length > 0 || missing.length === 0 ? [stat("HTTP/1.1 200 OK", found)] : []),
    ...(missing.length > 0 ? [stat("HTTP/1.1 404 Not Found", missing)] : []),
  );
}

function stat(status: string, properties: readonly Xml[]): Xml {
  return dav("propstat", dav("prop", ...properties), dav("status", status));
}

/** Returns that there is nothing at a path, or no more. */
export function goneResponse(path: string): Xml {
  return dav("response", dav("href", path), dav("status", "HTTP/1.1 404 Not Found"));
}
