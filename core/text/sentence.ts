/** `1 list`, `3 lists`: a count with its noun. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count < 1000 ? count : count.toLocaleString("en-GB")} ${count === 1 ? one : many}`;
}

/** Joins names as a sentence does: `a`, `a and b`, `a, b and c`. */
export function joined(parts: readonly string[], last = "and"): string {
  if (parts.length <= 1) return parts[0] ?? "";
  return `${parts.slice(0, -1).join(", ")} ${last} ${parts[parts.length - 1]}`;
}

/** A text with a capital letter at its start. */
export function capital(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
}
