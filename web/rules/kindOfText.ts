import { understoodAudience } from "@amigo/core/lists/understood";
import { listKind } from "@amigo/core/posting/listKind";
import type { ListKind } from "@amigo/core/posting/rules/rule";

const BEGINS: readonly [RegExp, ListKind][] = [
  [/^\s*guardians\b/i, "guardians"],
  [/^\s*students\b/i, "students"],
  [/^\s*(coaches|leads|staff)\b/i, "staff"],
];

/** What sort of people a list is for, also while its audience is being typed and not yet understood. */
export function kindOfText(audience: string): ListKind {
  const understood = understoodAudience(audience);
  if (understood.ok && audience.trim() !== "") return listKind(understood.audience);
  return BEGINS.find(([begins]) => begins.test(audience))?.[1] ?? "other";
}
