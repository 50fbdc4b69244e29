import { inOrder } from "@amigo/language/inOrder";
import { memberMay } from "@amigo/core/shelf/membersMay";
import type { Caller } from "../../callers/caller";
import type { Queries } from "../../db/connect";
import { safeName } from "../../sandbox/safeName";
import { openableBy } from "../../shelf/openers";
import { listListsOfThings } from "../../shelf/placeQueries";
import { listAddable, listThings, type ThingRow } from "../../shelf/queries";
import { listFolders, listListsNow, listOwnPrivate, listShelves } from "./queries";

export const ROOT = "/shelves/";

/**
 * A shelf as a folder: that of a list which the account looks after, of a private list of its own, or of one that its address is on
 * and whose members may add or change something.
 */
export interface Shelf {
  listId: string;
  name: string;
  as: "lead" | "member";
  /** Whether new files can be put there. */
  mayAdd: boolean;
}

/** A file in a folder of a shelf, or right on it. */
export interface ShelfFile {
  folder: string;
  name: string;
  row: ThingRow;
  /** Whether new versions can be put there. */
  mayChange: boolean;
  /** Whether it can be taken off, and go by another name. */
  mayTakeOff: boolean;
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
  const led = [...(await listShelves(db, caller)), ...(await listOwnPrivate(db, caller.id))];
  const isLed = new Set(led.map(({ id }) => id));
  const joined = (await listMemberShelves(db, caller)).filter(({ id }) => !isLed.has(id));
  const rows = [
    ...led.map((row) => ({ ...row, as: "lead" as const, mayAdd: true })),
    ...joined.map((row) => ({ ...row, as: "member" as const })),
  ];
  const names = distinct(rows.map(({ title }) => safeName(title, 0)));
  return rows.map(({ id, as, mayAdd }, at) => ({ listId: id, name: names[at] ?? "", as, mayAdd }));
}

/** Lists the lists that an account's address is on and on whose shelves it may add or change something. */
async function listMemberShelves(db: Queries, caller: Caller) {
  const addable = new Map((await listAddable(db, caller.email)).map((row) => [row.id, row.title]));
  const things = await memberFiles(db, caller);
  const changed = things.filter(({ mayChange }) => mayChange).map(({ row }) => row.thing.id);
  const places = changed.length === 0 ? [] : await listListsOfThings(db, changed);
  const theirs = new Set(await listListsNow(db, caller.email));
  const titles = new Map([
    ...places.filter(({ id }) => theirs.has(id)).map(({ id, title }) => [id, title] as const),
    ...addable,
  ]);
  return [...titles]
    .map(([id, title]) => ({ id, title, mayAdd: addable.has(id) }))
    .sort((one, other) => inOrder(one.title, other.title));
}

/** The files that an account may open as a member, with what it may do with each. */
async function memberFiles(
  db: Queries,
  { id, email }: Caller,
): Promise<Pick<ShelfFile, "row" | "mayChange" | "mayTakeOff">[]> {
  const things = await openableBy(db, email, new Date());
  return things.flatMap(({ row, may }) => {
    const { kind, membersMay, address, accountId } = row.thing;
    const isTheirs = address === email || accountId === id;
    const mayChange = memberMay(may, membersMay, "change", isTheirs);
    return kind === "file" ? [{ row, mayChange, mayTakeOff: isTheirs }] : [];
  });
}

/** The files of a shelf, with what an account may do with each. */
async function filesOn(db: Queries, caller: Caller, { listId, as }: Shelf) {
  const all = await listThings(db, [listId]);
  if (as === "lead")
    return all
      .filter(({ thing }) => thing.kind === "file")
      .map((row) => ({ row, mayChange: true, mayTakeOff: true }));
  const here = new Set(all.map(({ thing }) => thing.id));
  return (await memberFiles(db, caller)).filter(({ row }) => here.has(row.thing.id));
}

/** Returns what stands on a shelf. Links are not files, and are seen in Amigo alone. */
export async function contentsOf(db: Queries, caller: Caller, shelf: Shelf): Promise<Contents> {
  const found = (await filesOn(db, caller, shelf)).sort(
    (one, other) => one.row.thing.madeAt.getTime() - other.row.thing.madeAt.getTime(),
  );
  const rows = found.map(({ row }) => row);
  const paths = rows.map((row) => [
    row.thing.folder === "" ? "" : safeName(row.thing.folder, 0),
    row.name ?? "",
  ]);
  const names = distinct(paths.map(([folder, name]) => `${folder}/${name}`));
  const files = found.map((file, at) => ({
    ...file,
    folder: paths[at]?.[0] ?? "",
    name: (names[at] ?? "").slice((paths[at]?.[0] ?? "").length + 1),
  }));
  const made = await listFolders(db, shelf.listId);
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
  const { folders, files } = await contentsOf(db, caller, shelf);
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

/** Whether an account may put something where a path leads. */
export function mayWrite(node: Node): boolean {
  switch (node.at) {
    case "root":
      return false;
    case "file":
      return node.file.mayChange;
    case "nothing":
      return node.shelf.mayAdd;
    default:
      return node.shelf.as === "lead";
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
