import type { Context as HonoContext, Env } from "hono";
import type { z } from "zod";
import type { Endpoint } from "@amigo/contract/endpoint";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";

/** What a handler is given: the parsed parts of the request, who asks, and the request itself. */
export interface Request<E extends Endpoint> {
  params: z.output<NonNullable<E["params"]>>;
  query: z.output<NonNullable<E["query"]>>;
  body: z.output<NonNullable<E["body"]>>;
  /** For endpoints that anybody may ask, somebody without a name. */
  caller: Caller;
  /** For what members ask: the address whose owner has opened the page; empty else. */
  member: string;
  http: HonoContext;
  /** For a long request: tells the asker how far it is, and whether they have hung up. */
  long: { tell: (step: string, share: number) => void; signal: AbortSignal };
}

/** What an endpoint answers, as its contract has it. */
export type Answer<E extends Endpoint> = z.output<E["answer"]>;

/** Does what one endpoint is for: is given what the process works with and the request, and returns the answer. */
export type Handler<E extends Endpoint> = (
  context: Context,
  request: Request<E>,
) => Promise<Answer<E>>;

/** A request for a file, which has a route of its own: the parts of its path are known by the path's text. */
export type FileRequest<Path extends string> = HonoContext<Env, Path>;
