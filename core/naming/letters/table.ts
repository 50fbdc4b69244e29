/** Reads a table of letters, written as `letter letters letter letters …`; a dash stands for a letter that isn't written. */
export function table(pairs: string): ReadonlyMap<string, string> {
  const parts = pairs.trim().split(/\s+/);
  return new Map(
    parts.flatMap((letter, at) =>
      at % 2 === 0 ? [[letter, (parts[at + 1] ?? "").replace("-", "")] as const] : [],
    ),
  );
}
