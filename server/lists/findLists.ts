import { eq, and, isNull, or } from "drizzle-orm";
import { type findLists } from "@amigo/contract/lists";
import { fold } from "@amigo/core/text/fold";
import type { Context } from "../context";
import { house, season } from "../db/schema/house";
import { list, ownShortName } from "../db/schema/lists";
import type { Request, Answer } from "../http/handler";
import { memberCount } from "../membership/counts";
import { listsOf, foundByStaff } from "../membership/scope";

const HITS = 12;

export async function searchLists(
  { db }: Context,
  { query, caller }: Request<typeof findLists>,
): Promise<Answer<typeof findLists>> {
  const [own] = await db.select({ listDomain: house.listDomain }).from(house);
  const words = fold(query.q)
    .split(" ")
    .filter((word) => word !== "");
  const typed = query.q.trim().toLowerCase();
  const rows = await db
    .select({
      id: list.id,
      name: list.name,
      title: list.title,
      short: list.short,
      own: ownShortName.short,
      members: memberCount(),
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(
      ownShortName,
      and(eq(ownShortName.listId, list.id), eq(ownShortName.accountId, caller.id)),
    )
    .where(and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), foundByStaff)))
    .orderBy(list.title)
    .limit(5000);
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
  return found
    .sort((a, b) => Number(isNamed(b)) - Number(isNamed(a)))
    .slice(0, HITS)
    .map(({ id, name, title, members }) => ({
      id,
      name,
      title,
      members,
      address: `${name}@${own?.listDomain ?? ""}`,
    }));
}
