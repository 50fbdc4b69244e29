import { orRefuse } from "../http/fault";
import type { postRows } from "@amigo/contract/readings";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { addRows } from "./addRows";

/** Adds rows at the end of a sheet, as a reading of its own that a coordinator decides on. */
export async function addRowsByHand(
  context: Context,
  { params, body, caller, long }: Request<typeof postRows>,
): Promise<Answer<typeof postRows>> {
  return orRefuse(await addRows(context, params.id, body.rows, caller, long));
}
