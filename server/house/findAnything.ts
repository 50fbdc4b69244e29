import { type getFind } from "@amigo/contract/house";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { find } from "./find";

export function findAnything(
  { db }: Context,
  { query, caller }: Request<typeof getFind>,
): Promise<Answer<typeof getFind>> {
  return find(db, caller, query.q);
}
