/** A file name that leads nowhere else and ends no header line. `index` stands in for a missing one. */
export function safeName(name: string | undefined, index: number): string {
  const bare = (name ?? "")
    .replace(/[\u0000-\u001f\u007f-\u009f"\\/:*?<>|\u2028-\u202e]/g, "_")
    .replace(/^\.+/, "_");
  return bare === "" ? `attachment-${index + 1}` : shortened(bare);
}

const LONGEST = 120;

/** A long name cut in the middle: its ending says what the file is. */
function shortened(name: string): string {
  if (name.length <= LONGEST) return name;
  const [ending = ""] = /\.[A-Za-z0-9]{1,8}$/.exec(name.slice(-9)) ?? [];
  return `${name.slice(0, LONGEST - ending.length)}${ending}`;
}
