import type { Context as HonoContext } from "hono";
import type { Context } from "../context";
import { refuse } from "../http/fault";
import { fileTooLarge, mostOctets } from "./roomFor";

/**
 * Returns the body of a request as it comes.
 *
 * @throws Refusal once it is larger than a shelf takes
 */
export async function* bodyOf(
  { settings }: Pick<Context, "settings">,
  http: HonoContext,
): AsyncGenerator<Uint8Array> {
  const reader = http.req.raw.body?.getReader();
  if (reader === undefined) return;
  let size = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      const chunk = value as Uint8Array;
      size += chunk.length;
      if (size > mostOctets(settings)) refuse(fileTooLarge(settings));
      yield chunk;
    }
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}
