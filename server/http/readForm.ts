import type { Context } from "hono";
import { areStorable, unstorable } from "./storable";

/**
 * The fields of a form that was sent to a page outside the API; empty where the body is none.
 *
 * @throws Refusal 400 where a field holds text that can't be kept
 */
export async function readForm(http: Context): Promise<Readonly<Record<string, string>>> {
  const body = await http.req.parseBody().catch(() => ({}));
  if (!areStorable(body)) throw unstorable();
  return Object.fromEntries(
    Object.entries(body).filter((field): field is [string, string] => typeof field[1] === "string"),
  );
}
