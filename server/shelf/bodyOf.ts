import type { Context as HonoContext } from "hono";
import { SHELF_FILE } from "@amigo/contract/shelf";
import { refuse } from "../http/fault";
import { fileTooLarge } from "./roomFor";

/**
 * Returns the body of a request as it comes.
 *
 * @throws Refusal once it is larger than a shelf takes
 */
export async function* bodyOf(http: HonoContext): AsyncGenerator<Uint8Array> {
  const reader = http.req.raw.body?.getReader();
  if (reader === undefined) return;
  let size = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      const chunk = value as Uint8Array;
      size += chunk.length;
      if (size > SHELF_FILE) refuse(fileTooLarge());
      yield chunk;
    }
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}
