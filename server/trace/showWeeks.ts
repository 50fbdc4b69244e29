import type { getMailWeeks } from "@amigo/contract/trace";
import type { Context } from "../context";
import { refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { loadList } from "../membership/loadList";
import { countByWeek } from "./weekQueries";

/** How many weeks are shown, with this one. */
const WEEKS = 12;

/** Returns how many posts and copies there were in the last weeks, and how many of those arrived and failed. */
export async function showWeeks(
  { db }: Context,
  { query: { list }, caller }: Request<typeof getMailWeeks>,
): Promise<Answer<typeof getMailWeeks>> {
  if (list !== undefined) refuse(await loadList(db, list, caller));
  return countByWeek(db, caller, { list, weeks: WEEKS });
}
