import { makePlainToken, makeToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import type { LinkPurpose } from "../db/schema/members";
import { storeLink } from "./linkQueries";

/** Makes the secret of a link that is good for one purpose, once, for some hours. Only its hash is kept. `plain` makes it of small letters and digits, for an address. */
export async function makeLink(
  db: Queries,
  wanted: { purpose: LinkPurpose; address: string; about?: string; hours: number; plain?: boolean },
): Promise<string> {
  const token = wanted.plain === true ? makePlainToken() : makeToken();
  await storeLink(db, token, wanted);
  return token;
}
