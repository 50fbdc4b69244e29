import { streamSSE } from "hono/streaming";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import type { FileRequest } from "../http/handler";
import { findCaller } from "../http/route";
import { t } from "../texts/t";
import type { Topic } from "./events";

const BEAT_EVERY = 20_000;

/** How often at most it is looked whether a listener is still signed in, in milliseconds; a sign-out is told of and looked at at once. */
const LOOK_EVERY = 5_000;

/** How far the clocks of two machines, or asking and being asked, may lie apart, in milliseconds. What is told once too often is only asked for once more. */
const LEEWAY = 2000;

/** Tells a page what has changed, as server-sent events, for as long as it listens. */
export async function streamEvents(
  context: Context,
  http: FileRequest<"/api/events">,
): Promise<Response> {
  if ((await findCaller(http, context, true)) === undefined)
    throw new Refusal(401, "signed-out", t("shared.youAreNotSignedIn"));
  return streamSSE(http, async (stream) => {
    const last = Number(http.req.header("Last-Event-ID") ?? Number.NaN);
    const age = Number(http.req.query("age") ?? 0);
    const waiting = new Set<Topic>(
      context.events.since(
        (Number.isFinite(last) ? last : Date.now() - Math.max(0, Number.isFinite(age) ? age : 0)) -
          LEEWAY,
      ),
    );
    let wake: () => void = () => undefined;
    let looked = Date.now();
    const stop = context.events.onPage((topic) => {
      waiting.add(topic);
      wake();
    });
    stream.onAbort(() => {
      stop();
      wake();
    });
    while (!stream.aborted && !stream.closed) {
      for (const topic of waiting) {
        waiting.delete(topic);
        await stream.writeSSE({ event: "changed", data: topic, id: String(Date.now()) });
      }
      if (waiting.size > 0) continue;
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, BEAT_EVERY);
        wake = () => {
          clearTimeout(timer);
          resolve();
        };
      });
      if (stream.aborted) break;
      // Who has signed out, here or from elsewhere, hears no more.
      if (waiting.has("house") || Date.now() - looked > LOOK_EVERY) {
        const isSignedIn = await findCaller(http, context, true).then(
          (caller) => caller !== undefined,
          // A database that is away signs nobody out: it is looked again at the next occasion.
          () => "unknown" as const,
        );
        if (isSignedIn === false) break;
        if (isSignedIn === true) looked = Date.now();
      }
      if (waiting.size === 0)
        await stream.writeSSE({ event: "beat", data: "", id: String(Date.now()) });
    }
    stop();
  });
}
