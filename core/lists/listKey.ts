/** The key of the list that a recipe makes for a cohort, site or level, or for the house: `2:class:trapeze two`, `5:house`. */
export function listKey(recipe: number, of: string): string {
  return `${recipe}:${of}`;
}

/** Takes a key apart again; undefined for a list without a recipe, whose key is its id. */
export function listKeyParts(key: string): { recipe: number; of: string } | undefined {
  const parts = /^(\d+):(.*)$/s.exec(key);
  return parts === null ? undefined : { recipe: Number(parts[1]), of: parts[2] ?? "" };
}
