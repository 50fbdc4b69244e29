import type { Caller } from "../../callers/caller";
import type { Queries } from "../../db/connect";
import { safeName } from "../../sandbox/safeName";
import { listThings, type ThingRow } from "../../shelf/queries";
import { listFolders, listShelves } from "./queries";

export const ROOT = "/shelves/";

/** A shelf as a folder: that of a list which the account looks after. */
export interface Shelf {
  listId: string;
  name: string;
}

/** A file in a folder of a shelf, or right on it. */
export interface ShelfFile {
  folder: string;
  name: string;
  row: ThingRow;
}

/** What stands on a shelf. */
export interface Contents {
  folders: string[];
  files: ShelfFile[];
}

/** Where a path leads: above all shelves, to a shelf, or to something on it, which may not be there yet. */
export type Node =
  | { at: "root" }
  | { at: "shelf"; shelf: Shelf }
  | { at: "folder"; shelf: Shelf; folder: string }
  | { at: "file"; shelf: Shelf; file: ShelfFile }
  | { at: "nothing"; shelf: Shelf; folder: string; name: string };

/** Lists the shelves of an account, each by the title of its list; of two that are alike, the second gets a number. */
export async function shelvesOf(db: Queries, caller: Caller): Promise<Shelf[]> {
  const rows = await listShelves(db, caller);
  const names = distinct(rows.map(({ title }) => safeName(title, 0)));
  return rows.map(({ id }, at) => ({ listId: id, name: names[at] ?? "" }));
}

/** Returns what stands on a shelf. Links are not files, and are seen in Amigo alone. */
export async function contentsOf(db: Queries, { listId }: Shelf): Promise<Contents> {
  const rows = (await listThings(db, [listId]))
    .filter(({ thing }) => thing.kind === "file")
    .sort((one, other) => one.thing.madeAt.getTime() - other.thing.madeAt.getTime());
  const paths = rows.map((row) => [
    row.thing.folder === "" ? "" : safeName(row.thing.folder, 0),
    row.name ?? "",
  ]);
  const names = distinct(paths.map(([folder, name]) => `${folder}/${name}`));
  const files = rows.map((row, at) => ({
    row,
    folder: paths[at]?.[0] ?? "",
    name: (names[at] ?? "").slice((paths[at]?.[0] ?? "").length + 1),
  }));
  const made = await listFolders(db, listId);
  const folders = new Set([...files.map(({ folder }) => folder), ...made]);
  return { files, folders: [...folders].filter((name) => name !== "").sort() };
}

/** Returns where a path leads, for an account; undefined where there is no such shelf, or it is too deep. */
export async function nodeAt(db: Queries, caller: Caller, path: string): Promise<Node | undefined> {
  const parts = partsOf(path);
  if (parts === undefined) return undefined;
  const [shelfName, first, second] = parts;
  if (shelfName === undefined) return { at: "root" };
  const shelf = (await shelvesOf(db, caller)).find(({ name }) => name === shelfName);
  if (shelf === undefined) return undefined;
  if (first === undefined) return { at: "shelf", shelf };
  const { folders, files } = await contentsOf(db, shelf);
  if (second === undefined && folders.includes(first))
    return { at: "folder", shelf, folder: first };
  const [folder, name] = second === undefined ? ["", first] : [first, second];
  if (folder !== "" && !folders.includes(folder)) return undefined;
  const there = files.filter((one) => one.folder === folder);
  // A name that can't be kept as it is, for its signs or its length, leads to what it was kept as.
  const kept = name.startsWith(".") ? name : safeName(name, 0);
  const file = there.find((one) => one.name === name) ?? there.find((one) => one.name === kept);
  return file === undefined ? { at: "nothing", shelf, folder, name } : { at: "file", shelf, file };
}

/** The decoded parts of a path below the shelves; undefined where it is none, or deeper than a folder goes. */
function partsOf(path: string): string[] | undefined {
  try {
    const parts = path
      .split("/")
      .slice(2)
      .filter((part) => part !== "")
      .map(decodeURIComponent);
    return parts.length > 3 || parts.some((part) => part === "." || part === "..")
      ? undefined
      : parts;
  } catch {
    return undefined;
  }
}

/** Returns the path of a node. */
export function pathOf(node: Node): string {
  const folder = (name: string): string => (name === "" ? "" : `${encodeURIComponent(name)}/`);
  if (node.at === "root") return ROOT;
  const shelf = `${ROOT}${encodeURIComponent(node.shelf.name)}/`;
  switch (node.at) {
    case "shelf":
      return shelf;
    case "folder":
      return `${shelf}${folder(node.folder)}`;
    case "file":
      return `${shelf}${folder(node.file.folder)}${encodeURIComponent(node.file.name)}`;
    case "nothing":
      return `${shelf}${folder(node.folder)}${encodeURIComponent(node.name)}`;
  }
}

/** Names of which no two are alike, whatever the size of their letters: the second gets a number before its ending. */
function distinct(names: readonly string[]): string[] {
  const used = new Set<string>();
  return names.map((name) => {
    const [, bare = name, ending = ""] = /^(.+?)(\.[^./]+)?$/s.exec(name) ?? [];
    let free = name;
    for (let number = 2; used.has(free.toLowerCase()); number++)
      free = `${bare} (${number})${ending}`;
    used.add(free.toLowerCase());
    return free;
  });
}
