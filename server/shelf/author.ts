import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { loadCurrentSeason } from "../db/houseQueries";
import { namesBehind } from "../membership/namesBehind";
import { t } from "../texts/t";

/** Who puts something on a shelf, or says something about it: an account, or a member by their address. */
export interface Author {
  /** As the house calls them. */
  name: string;
  accountId: string | null;
  /** Null for an account. */
  address: string | null;
}

/** Returns an account as an author. */
export function asAuthor({ id, name }: Pick<Caller, "id" | "name">): Author {
  return { name, accountId: id, address: null };
}

/** Returns a member as an author, called as the house has their name. */
export async function memberAuthor(db: Queries, address: string): Promise<Author> {
  const season = await loadCurrentSeason(db);
  const names = await namesBehind(db, season?.id ?? 0, [address]);
  const name = names.get(address)?.name ?? "";
  return { name: name === "" ? t("shelf.aMember") : name, accountId: null, address };
}
