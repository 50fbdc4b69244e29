import * as z from "zod";
import type { Action } from "@amigo/core/access/may";
import { Problem } from "./problem";

type Shape = z.ZodObject;

/** One request of the API and its answer. Everything about it is here: path, who may ask, shapes. */
export interface Endpoint<
  Params extends Shape = Shape,
  Query extends Shape = Shape,
  Body extends z.ZodType = z.ZodType,
  Answer extends z.ZodType = z.ZodType,
> {
  method: "get" | "post" | "put" | "delete";
  /** With `{name}` for each path parameter. */
  path: string;
  summary: string;
  /** Who may ask: anybody, a member who has opened their page by a mailed link, or whoever may do the action. */
  who: "anybody" | "member" | Action;
  params?: Params;
  query?: Query;
  body?: Body;
  /** How the body comes: as JSON, as a form with a file, or as the octets of a file, which are read as they come. */
  bodyType?: "json" | "form" | "octets";
  /** How large the body may be, in octets, where `USUAL_BODY` is not enough. */
  most?: number;
  answer: Answer;
  /** Whether it can take long: asked for NDJSON it answers lines of `progress`, then one of `answer` or `problem`; hanging up stops it. */
  long?: boolean;
}

const KB = 1024;
/** How large the body of a request may be, in octets, where its endpoint says no more. */
export const USUAL_BODY = 64 * KB;
/** Bodies with many names, addresses, cells or a long text in them. */
export const LONG_BODY = 4 * KB * KB;
/** Bodies with a file in them. */
export const FILE_BODY = 26 * KB * KB;

/** A line of the answer to a long request. `share` is between 0 and 1. */
export const LongAnswer = z.union([
  z.object({ progress: z.object({ step: z.string(), share: z.number() }) }),
  z.object({ answer: z.unknown() }),
  z.object({ problem: Problem }),
]);

export const NDJSON = "application/x-ndjson";

/** The names in a path: `id` and `file` of `/api/drafts/{id}/files/{file}`. */
type NamesIn<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}`
  ? Name | NamesIn<Rest>
  : never;

/** The path itself where it has just the names of the parameters' shape, else nothing: then it is an error of types. */
type PathWith<Path extends string, Params extends Shape> = Shape extends Params
  ? [NamesIn<Path>] extends [never]
    ? Path
    : never
  : [NamesIn<Path>, keyof z.input<Params>] extends [keyof z.input<Params>, NamesIn<Path>]
    ? Path
    : never;

/** Gives an endpoint its exact types. The names in its path are those of its parameters. */
export function endpoint<
  const Path extends string,
  Params extends Shape,
  Query extends Shape,
  Body extends z.ZodType,
  Answer extends z.ZodType,
>(
  definition: Endpoint<Params, Query, Body, Answer> & { path: PathWith<Path, Params> },
): Endpoint<Params, Query, Body, Answer> {
  return definition;
}
