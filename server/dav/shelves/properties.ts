import { fileType } from "@amigo/core/shelf/fileType";
import type { Caller } from "../../callers/caller";
import type { Context } from "../../context";
import { countOctets } from "../../shelf/blobQueries";
import { fault, multiStatus } from "../answers";
import { namesIn } from "../propfind";
import type { PropertyName } from "../properties";
import { childOf, dav, DAV, parseXml, xml, type Xml } from "../xml";
import { activeLock, lockedPlace } from "./locks";
import { listLocks } from "./queries";
import { contentsOf, shelvesOf, type Node, type ShelfFile } from "./tree";

const GIGA = 1_000_000_000;

/** What a node says of itself, by the names of `DAV:` (RFC 4918, section 15; RFC 4331 for what room there is). */
type Property = (
  node: Node,
  context: Context,
) => Promise<(Xml | string)[] | undefined> | (Xml | string)[] | undefined;

const ofFile =
  (read: (file: ShelfFile) => string): Property =>
  (node) =>
    node.at === "file" ? [read(node.file)] : undefined;

const PROPERTIES: Readonly<Record<string, Property>> = {
  resourcetype: ({ at }) => (at === "file" ? [] : [dav("collection")]),
  displayname: (node) => [nameOf(node)],
  getetag: ofFile(tagOf),
  getcontentlength: ofFile(({ row }) => String(row.size ?? 0)),
  getcontenttype: ofFile(({ name }) => fileType(name).type),
  getlastmodified: ofFile(({ row }) => (row.at ?? row.thing.madeAt).toUTCString()),
  creationdate: ofFile(({ row }) => row.thing.madeAt.toISOString()),
  supportedlock: () =>
    ["exclusive", "shared"].map((scope) =>
      dav("lockentry", dav("lockscope", dav(scope)), dav("locktype", dav("write"))),
    ),
  lockdiscovery: async (node, { db }) => {
    const place = lockedPlace(node);
    const locks = place === undefined ? [] : await listLocks(db, place, false);
    return locks.map((lock) => activeLock(node, lock));
  },
};

/** What is told only where it is asked for by its name, as it takes a look at everything that is kept. */
const RARE: Readonly<Record<string, Property>> = {
  "quota-used-bytes": async ({ at }, { db }) =>
    at === "file" ? undefined : [String(await countOctets(db))],
  "quota-available-bytes": async ({ at }, { db, settings }) =>
    at === "file"
      ? undefined
      : [String(Math.max(0, settings.shelfGigabytes * GIGA - (await countOctets(db))))],
};

function nameOf(node: Node): string {
  switch (node.at) {
    case "root":
      return "Amigo";
    case "shelf":
      return node.shelf.name;
    case "folder":
      return node.folder;
    case "file":
      return node.file.name;
    case "nothing":
      return node.name;
  }
}

/** The version of a file: another one as soon as its content is. */
export function tagOf({ row }: ShelfFile): string {
  return `"${row.thing.id}-${row.thing.version}"`;
}

/** Answers with properties of a node, and of what stands right below it (RFC 4918, section 9.1); undefined for a body that says nothing. */
export async function answerPropfind(
  context: Context,
  caller: Caller,
  node: Node,
  { path, depth, body }: { path: string; depth: string | undefined; body: string },
): Promise<Response | undefined> {
  if (depth !== "0" && depth !== "1") return fault(403, dav("propfind-finite-depth"));
  const names = namesAsked(body);
  if (names === undefined) return undefined;
  const below = depth === "1" ? await childrenOf(context, caller, node) : [];
  // Programs look for the path that they asked for, letter for letter, and letters can be written in several ways.
  const here = node.at === "file" || path.endsWith("/") ? path : `${path}/`;
  const responses: Xml[] = [await responseOf(context, node, here, names)];
  for (const child of below) {
    const end = child.at === "file" ? "" : "/";
    const href = `${here}${encodeURIComponent(nameOf(child))}${end}`;
    responses.push(await responseOf(context, child, href, names));
  }
  return multiStatus(responses);
}

async function childrenOf({ db }: Context, caller: Caller, node: Node): Promise<Node[]> {
  if (node.at === "root")
    return (await shelvesOf(db, caller)).map((shelf) => ({ at: "shelf", shelf }));
  if (node.at !== "shelf" && node.at !== "folder") return [];
  const { shelf } = node;
  const { folders, files } = await contentsOf(db, caller, shelf);
  const here = node.at === "folder" ? node.folder : "";
  return [
    ...(node.at === "shelf"
      ? folders.map((folder): Node => ({ at: "folder", shelf, folder }))
      : []),
    ...files
      .filter(({ folder }) => folder === here)
      .map((file): Node => ({ at: "file", shelf, file })),
  ];
}

/** The names that are asked for; a request without a body asks for all that is usual. */
function namesAsked(body: string): PropertyName[] | undefined {
  const usual = Object.keys(PROPERTIES).map((name) => ({ namespace: DAV, name }));
  if (body.trim() === "") return usual;
  const root = parseXml(body);
  if (root?.namespace !== DAV || root.name !== "propfind") return undefined;
  return childOf(root, DAV, "prop") === undefined ? usual : namesIn(root);
}

async function responseOf(
  context: Context,
  node: Node,
  href: string,
  names: readonly PropertyName[],
): Promise<Xml> {
  const found: Xml[] = [];
  const missing: Xml[] = [];
  for (const { namespace, name } of names) {
    const property = namespace === DAV ? (PROPERTIES[name] ?? RARE[name]) : undefined;
    const value = await property?.(node, context);
    if (value === undefined) missing.push(xml(namespace, name));
    else found.push(xml(namespace, name, ...value));
  }
  const stat = (status: string, properties: readonly Xml[]): Xml[] =>
    properties.length === 0
      ? []
      : [dav("propstat", dav("prop", ...properties), dav("status", status))];
  return dav(
    "response",
    dav("href", href),
    ...stat("HTTP/1.1 200 OK", found),
    ...stat("HTTP/1.1 404 Not Found", missing),
  );
}
