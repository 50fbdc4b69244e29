import type { Context as HonoContext } from "hono";

/** Returns the body of a request as it comes, octets by octets. */
export async function* bodyOf(http: HonoContext): AsyncGenerator<Uint8Array> {
  const reader = http.req.raw.body?.getReader();
  if (reader === undefined) return;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      yield value as Uint8Array;
    }
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}
