import type { Family } from "@amigo/contract/people";
import { familiesFound } from "@amigo/core/identity/familiesFound";
import { searchTerms } from "@amigo/core/text/searchTerms";
import type { Queries } from "../db/connect";
import { insideDomains } from "../db/insideDomains";
import { standingIndex } from "../facts/standing";
import type { Caller } from "../callers/caller";
import { peopleOf, seenIds } from "../membership/scope";
import { loadStopped } from "../membership/addressQueries";
import { addressesAround, familyOf } from "./familyOf";
import { indexAround, listCounts, listFoundBy } from "./queries";

const FAMILIES_AT_ONCE = 30;

/**
 * Returns families with somebody of whom name, number or address hold all the words, by family name. `only` narrows them to families of
 * some students, and whom the asker doesn't see is left out.
 */
export async function findFamilies(
  db: Queries,
  seasonId: number,
  { q, only, from }: { q: string; only?: ReadonlySet<string> | undefined; from: number },
  caller: Caller,
): Promise<{ total: number; families: Family[] }> {
  const terms = searchTerms(q);
  if (terms.length === 0 && q.trim() !== "") return { total: 0, families: [] };
  const everybody = await standingIndex(db, seasonId);
  const all = familiesFound(everybody, {
    found: terms.length === 0 ? undefined : await listFoundBy(db, seasonId, terms),
    only,
    within: await seenIds(db, caller, seasonId),
  });
  const shown = all.slice(from, from + FAMILIES_AT_ONCE);
  // Who is out of sight isn't in what a site coordinator is shown from.
  const within = peopleOf(caller, seasonId);
  const index = within === undefined ? everybody : await indexAround(db, seasonId, shown, within);
  const [lists, inside, stopped] = await Promise.all([
    listCounts(db, addressesAround(index, shown)),
    insideDomains(db),
    loadStopped(db),
  ]);
  const known = { index, lists, insideDomains: inside, stopped };
  const seen = new Set<string>();
  const families = shown.flatMap((student) => {
    const first = index.people.get(student);
    if (first === undefined || seen.has(student)) return [];
    const family = familyOf(first, known);
    for (const { id } of family.people) seen.add(id);
    return [family];
  });
  return { total: all.length, families };
}
