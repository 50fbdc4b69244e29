/** Where in the tree a path leads. The account's id stands in each, so that two accounts never share an address. */
export type Place =
  | { at: "root" }
  | { at: "principal" | "calendars" | "addressbooks"; account: string }
  | { at: "collection"; kind: "calendar" | "addressbook"; account: string; id: string }
  | { at: "item"; kind: "calendar" | "addressbook"; account: string; id: string; name: string };

export const ROOT = "/dav/";
const HOMES = { calendars: "calendar", addressbooks: "addressbook" } as const;

/** Returns where a path leads; undefined where it leads nowhere. */
export function placeOf(path: string): Place | undefined {
  if (!path.startsWith("/dav")) return undefined;
  const parts = path
    .split("/")
    .slice(2)
    .filter((part) => part !== "");
  const decoded = parts.map(decode);
  if (decoded.includes(undefined)) return undefined;
  const [first, account, id, name, more] = decoded;
  if (first === undefined) return { at: "root" };
  if (account === undefined || more !== undefined) return undefined;
  if (first === "principals") return id === undefined ? { at: "principal", account } : undefined;
  if (first !== "calendars" && first !== "addressbooks") return undefined;
  const kind = HOMES[first];
  if (id === undefined) return { at: first, account };
  return name === undefined
    ? { at: "collection", kind, account, id }
    : { at: "item", kind, account, id, name };
}

function decode(part: string): string | undefined {
  try {
    return decodeURIComponent(part);
  } catch {
    return undefined;
  }
}

/** Returns the path of a place. */
export function pathOf(place: Place): string {
  switch (place.at) {
    case "root":
      return ROOT;
    case "principal":
      return `${ROOT}principals/${place.account}/`;
    case "calendars":
    case "addressbooks":
      return `${ROOT}${place.at}/${place.account}/`;
    case "collection":
      return `${ROOT}${place.kind}s/${place.account}/${encodeURIComponent(place.id)}/`;
    case "item":
      return `${pathOf({ ...place, at: "collection" })}${encodeURIComponent(place.name)}`;
  }
}
