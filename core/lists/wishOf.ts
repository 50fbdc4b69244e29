import type { NameWish } from "../naming/nameLists";
import { proposeSiteCode } from "../naming/shortForm";
import type { WantedList } from "./wantedLists";

/** How a list's name is wished for by the convention. `codes` are the sites' short codes by their names. */
export function wishOf(
  { key, pattern, parts, site }: WantedList,
  season: string,
  codes: ReadonlyMap<string, string>,
): NameWish {
  return {
    key,
    pattern,
    parts: {
      ...parts,
      season,
      site: site === "" ? "" : (codes.get(site) ?? proposeSiteCode(site)),
    },
  };
}
