import { type postRows } from "@amigo/contract/sources";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { addRows } from "./addRows";

export async function addRowsByHand(
  context: Context,
  { params, body, caller, long }: Request<typeof postRows>,
): Promise<Answer<typeof postRows>> {
  return addRows(context, params.id, body.rows, caller, long);
}
