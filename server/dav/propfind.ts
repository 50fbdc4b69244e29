import { fault, multiStatus, responseOf } from "./answers";
import { namesOf, usualProperties, type PropertyName, type Resource } from "./properties";
import type { Found } from "./resources";
import { pathOf } from "./paths";
import { childOf, dav, DAV, parseXml, xml, type XmlElement } from "./xml";

/** Which properties are asked for. */
type Asked = { names: PropertyName[] } | "names only";

/**
 * Answers with properties of what stands at a place, and of what stands right below it (RFC 4918, section 9.1).
 *
 * @param depth the header: `0` or `1`; all of a tree is more than one answer holds
 */
export async function answerPropfind(
  found: Found,
  depth: string | undefined,
  body: string,
): Promise<Response> {
  if (depth !== "0" && depth !== "1") return fault(403, dav("propfind-finite-depth"));
  const asked = askedIn(body);
  if (asked === undefined) return new Response(null, { status: 400 });
  const resources = [found.resource, ...(depth === "1" ? await found.children() : [])];
  const responses = [];
  for (const resource of resources) responses.push(await answerFor(resource, asked));
  return multiStatus(responses);
}

async function answerFor(resource: Resource, asked: Asked) {
  if (asked !== "names only") return responseOf(resource, asked.names);
  const names = (await namesOf(resource)).map(({ namespace, name }) => xml(namespace, name));
  return dav(
    "response",
    dav("href", pathOf(resource.place)),
    dav("propstat", dav("prop", ...names), dav("status", "HTTP/1.1 200 OK")),
  );
}

/** Reads what a request asks for; a request without a body asks for everything that is usual. */
function askedIn(body: string): Asked | undefined {
  if (body.trim() === "") return { names: usualProperties() };
  const root = parseXml(body);
  if (root?.namespace !== DAV || root.name !== "propfind") return undefined;
  if (childOf(root, DAV, "propname") !== undefined) return "names only";
  const named = namesIn(root);
  const isAll = childOf(root, DAV, "allprop") !== undefined;
  const more = childOf(root, DAV, "include")?.children ?? [];
  if (!isAll && named === undefined) return undefined;
  return { names: [...(isAll ? usualProperties() : []), ...(named ?? []), ...more] };
}

/** Returns the names in the `prop` of a request; undefined where it has none. */
export function namesIn(root: XmlElement): PropertyName[] | undefined {
  return childOf(root, DAV, "prop")?.children.map(({ namespace, name }) => ({ namespace, name }));
}

/** Answers that no property can be set: names and colours are the program's own (RFC 4918, section 9.2). */
export function answerProppatch(path: string, body: string): Response {
  const root = parseXml(body);
  if (root?.namespace !== DAV || root.name !== "propertyupdate")
    return new Response(null, { status: 400 });
  const names = root.children.flatMap((change) => namesIn(change) ?? []);
  return multiStatus([
    dav(
      "response",
      dav("href", path),
      dav(
        "propstat",
        dav("prop", ...names.map(({ namespace, name }) => xml(namespace, name))),
        dav("status", "HTTP/1.1 403 Forbidden"),
        dav("error", dav("cannot-modify-protected-property")),
      ),
    ),
  ]);
}
