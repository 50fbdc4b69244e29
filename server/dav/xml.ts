import { SaxesParser } from "saxes";

/** An element of XML as it was sent. */
export interface XmlElement {
  namespace: string;
  name: string;
  attributes: ReadonlyMap<string, string>;
  children: XmlElement[];
  text: string;
}

/** How deep elements may stand in each other, and how many there may be in all. */
const DEEPEST = 30;
const MOST = 30_000;

/**
 * Parses XML with namespaces. What has a document type is refused, and with it every entity of its own (RFC 4918, section 20.6);
 * so is what is deeper or has more elements than any program needs.
 *
 * @returns undefined where it isn't well-formed, or is refused
 */
export function parseXml(text: string): XmlElement | undefined {
  const root: XmlElement = element("", "", new Map());
  const open: XmlElement[] = [root];
  let count = 0;
  const parser = new SaxesParser({ xmlns: true });
  parser.on("error", (failure) => {
    throw failure;
  });
  parser.on("doctype", () => {
    throw new Error("a document type");
  });
  parser.on("opentag", ({ uri, local, attributes }) => {
    if (open.length > DEEPEST || ++count > MOST) throw new Error("too much");
    const found = element(
      uri,
      local,
      new Map(Object.values(attributes).map((one) => [one.local, one.value])),
    );
    open.at(-1)?.children.push(found);
    open.push(found);
  });
  parser.on("text", (part) => {
    const parent = open.at(-1);
    if (parent !== undefined) parent.text += part;
  });
  parser.on("cdata", (part) => {
    const parent = open.at(-1);
    if (parent !== undefined) parent.text += part;
  });
  parser.on("closetag", () => {
    open.pop();
  });
  try {
    parser.write(text).close();
  } catch {
    return undefined;
  }
  return root.children[0];
}

function element(
  namespace: string,
  name: string,
  attributes: ReadonlyMap<string, string>,
): XmlElement {
  return { namespace, name, attributes, children: [], text: "" };
}

/** Returns the first child with a name of a namespace. */
export function childOf(
  parent: XmlElement | undefined,
  namespace: string,
  name: string,
): XmlElement | undefined {
  return parent?.children.find((child) => child.namespace === namespace && child.name === name);
}

export const DAV = "DAV:";
export const CALDAV = "urn:ietf:params:xml:ns:caldav";
export const CARDDAV = "urn:ietf:params:xml:ns:carddav";
/** The names of a calendar server's extensions that many programs ask for. */
export const CALENDAR_SERVER = "http://calendarserver.org/ns/";

const PREFIXES: Readonly<Record<string, string>> = {
  [DAV]: "D",
  [CALDAV]: "C",
  [CARDDAV]: "A",
  [CALENDAR_SERVER]: "S",
};

/** An element to be written. */
export interface Xml {
  namespace: string;
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: readonly (Xml | string)[];
}

/** Makes an element to be written. */
export function xml(namespace: string, name: string, ...children: readonly (Xml | string)[]): Xml {
  return { namespace, name, attributes: {}, children };
}

/** Makes an element of the namespace `DAV:`. */
export function dav(name: string, ...children: readonly (Xml | string)[]): Xml {
  return xml(DAV, name, ...children);
}

/** Writes a document. Names of other namespaces than those that DAV has are declared where they stand. */
export function writeXml(root: Xml): string {
  const declared = Object.entries(PREFIXES)
    .map(([namespace, prefix]) => ` xmlns:${prefix}="${namespace}"`)
    .join("");
  return `<?xml version="1.0" encoding="utf-8"?>\n${written(root, declared)}`;
}

function written({ namespace, name, attributes, children }: Xml, declared = ""): string {
  const prefix = PREFIXES[namespace];
  const tag = prefix === undefined ? name : `${prefix}:${name}`;
  const own = prefix === undefined ? ` xmlns="${escaped(namespace)}"` : "";
  const given = Object.entries(attributes)
    .map(([key, value]) => ` ${key}="${escaped(value)}"`)
    .join("");
  const content = children
    .map((child) => (typeof child === "string" ? escaped(child) : written(child)))
    .join("");
  return content === ""
    ? `<${tag}${declared}${own}${given}/>`
    : `<${tag}${declared}${own}${given}>${content}</${tag}>`;
}

/** A text as XML has it; what no XML can hold is left out (XML 1.0, section 2.2). */
function escaped(text: string): string {
  return text
    .replace(/[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu, "")
    .replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
}
