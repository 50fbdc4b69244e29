/** A file name that leads nowhere else and ends no header line. `index` stands in for a missing one. */
export function safeName(name: string | undefined, index: number): string {
  const bare = (name ?? "")
    .replace(/[\u0000-\u001f\u007f-\u009f"\\/:*?<>|\u2028-\u202e]/g, "_")
    .replace(/^\.+/, "_")
    .slice(0, 120);
  return bare === "" ? `attachment-${index + 1}` : bare;
}
