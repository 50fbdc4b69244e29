import type { FactIndex, Person } from "../facts/factIndex";
import type { Audience } from "./audience";
import { candidates } from "./anchors";
import { belongs, type Reason } from "./belongs";

/** Everybody who belongs to an audience, each with the reason. Looks only at those whom the indexes bring. */
export function whoBelongs(
  audience: Audience,
  index: FactIndex,
): { person: Person; reason: Reason }[] {
  const found: { person: Person; reason: Reason }[] = [];
  for (const person of candidates(audience, index)) {
    const reason = belongs(audience, person, index);
    if (reason !== undefined) found.push({ person, reason });
  }
  return found;
}
