import { type getFind } from "@amigo/contract/house";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { find } from "./find";

/** Finds lists, classes, people and sources by any part of their names. */
export function findAnything(
  { db }: Context,
  { query, caller }: Request<typeof getFind>,
): Promise<Answer<typeof getFind>> {
  return find(db, caller, query.q);
}
