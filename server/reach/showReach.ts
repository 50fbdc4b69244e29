import { type getReach } from "@amigo/contract/mail";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { reachOf } from "./reach";

/** Returns who can be reached, by class and over time, and which addresses fail. */
export async function showReach(
  { db }: Context,
  { caller }: Request<typeof getReach>,
): Promise<Answer<typeof getReach>> {
  return reachOf(db, caller);
}
