/** A file that was dropped or chosen, with the folder that it came in; empty for none. */
export interface FileInFolder {
  file: File;
  folder: string;
}

/** How deep folders are looked into. */
const DEEPEST = 8;

/** What stands between the names of folders in one another, as folders on a shelf go one deep. */
const BETWEEN = " – ";

/** Returns the folder of a path: "Costumes/Small/hat.pdf" is in "Costumes – Small". */
export function folderIn(path: string): string {
  return path.split("/").slice(0, -1).join(BETWEEN).slice(0, 100);
}

/** Whether a path in a folder leads to what people made: systems leave hidden things there, which nobody sees or wants to share. */
export function isWanted(path: string): boolean {
  const parts = path.split("/");
  const name = parts.at(-1) ?? "";
  return (
    !parts.some((part) => part.startsWith(".")) && name !== "Thumbs.db" && name !== "desktop.ini"
  );
}

/** Returns all files that were dropped, also those in folders, with their folders. */
export async function droppedFiles(dropped: DataTransfer): Promise<FileInFolder[]> {
  // The entries are gone as soon as something is waited for, so all are taken first.
  const entries = [...dropped.items].flatMap((item) => item.webkitGetAsEntry() ?? []);
  if (entries.length === 0) return [...dropped.files].map((file) => ({ file, folder: "" }));
  const found = await Promise.all(entries.map((entry) => filesOf(entry, 0)));
  return found.flat();
}

async function filesOf(entry: FileSystemEntry, depth: number): Promise<FileInFolder[]> {
  if (isFile(entry)) {
    if (depth > 0 && !isWanted(entry.name)) return [];
    const file = await new Promise<File>((resolve, reject) => entry.file(resolve, reject));
    return [{ file, folder: folderIn(entry.fullPath.replace(/^\//, "")) }];
  }
  if (!isFolder(entry) || depth === DEEPEST || (depth > 0 && !isWanted(entry.name))) return [];
  const found: FileInFolder[] = [];
  for (const inside of await entriesOf(entry)) found.push(...(await filesOf(inside, depth + 1)));
  return found;
}

function isFile(entry: FileSystemEntry): entry is FileSystemFileEntry {
  return entry.isFile;
}

function isFolder(entry: FileSystemEntry): entry is FileSystemDirectoryEntry {
  return entry.isDirectory;
}

/** Browsers give what is in a folder a hundred at a time. */
async function entriesOf(folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> {
  const reader = folder.createReader();
  const all: FileSystemEntry[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (some.length === 0) return all;
    all.push(...some);
  }
}
