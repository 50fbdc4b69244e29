import { type getMember } from "@amigo/contract/member";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { memberLists } from "./memberLists";

/** Returns the lists of a member, their addresses, their children's classes. */
export async function showMember(
  { db }: Context,
  { member }: Request<typeof getMember>,
): Promise<Answer<typeof getMember>> {
  return memberLists(db, member);
}
