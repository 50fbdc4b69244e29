import { type findLists } from "@amigo/contract/lists";
import { fold } from "@amigo/core/text/fold";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { loadHouse } from "../db/houseQueries";
import { countMembers, listTargets } from "../membership/targetQueries";

const HITS = 12;

/** Returns lists that the asker may write to, by the start of any word of their names. */
export async function searchLists(
  { db }: Context,
  { query, caller }: Request<typeof findLists>,
): Promise<Answer<typeof findLists>> {
  const house = await loadHouse(db);
  const words = fold(query.q)
    .split(" ")
    .filter((word) => word !== "");
  const typed = query.q.trim().toLowerCase();
  const rows = await listTargets(db, caller);
  const isNamed = ({ short, own: mine }: { short: string; own: string | null }): boolean =>
    typed !== "" &&
    (mine === typed || short.split(",").some((name) => name.trim().toLowerCase() === typed));
  const found = rows.filter((row) => {
    const pieces = fold(`${row.title} ${row.name} ${row.short} ${row.own ?? ""}`).split(" ");
    return (
      words.every((word) => pieces.some((piece) => piece.startsWith(word))) ||
      row.name.startsWith(typed) ||
      isNamed(row)
    );
  });
  const hits = found.sort((a, b) => Number(isNamed(b)) - Number(isNamed(a))).slice(0, HITS);
  const members = await countMembers(
    db,
    hits.map(({ id }) => id),
  );
  return hits.map(({ id, name, title }) => ({
    id,
    name,
    title,
    members: members.get(id) ?? 0,
    address: `${name}@${house?.listDomain ?? ""}`,
  }));
}
