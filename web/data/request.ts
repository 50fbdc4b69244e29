import type { EndpointBuilder } from "@reduxjs/toolkit/query/react";
import type { z } from "zod";
import type { Endpoint } from "@amigo/contract/endpoint";
import type { Ask, Asked, Tag } from "./api";

/** What an endpoint answers, as its contract has it. */
export type AnswerOf<E extends Endpoint> = z.output<E["answer"]>;

/** The body that an endpoint takes, before anything that is left out gets its usual value. */
export type BodyOf<E extends Endpoint> = z.input<NonNullable<E["body"]>>;

/** Whether an endpoint says nothing of a part: its type is then as wide as that of any endpoint. */
type IsLeftOut<Part, Widest> = Widest extends Part ? true : false;
type Optional<Name extends string, Value> =
  Record<never, unknown> extends Value ? Partial<Record<Name, Value>> : Record<Name, Value>;

/** The parts of a request to an endpoint: those that its contract has, of the shapes that it has there. A form with a file, or a file, goes as it is. */
export type PartsOf<E extends Endpoint> = (IsLeftOut<
  NonNullable<E["params"]>,
  NonNullable<Endpoint["params"]>
> extends true
  ? { params?: never }
  : { params: z.input<NonNullable<E["params"]>> }) &
  (IsLeftOut<NonNullable<E["query"]>, NonNullable<Endpoint["query"]>> extends true
    ? { query?: never }
    : Optional<"query", z.input<NonNullable<E["query"]>>>) &
  (IsLeftOut<NonNullable<E["body"]>, NonNullable<Endpoint["body"]>> extends true
    ? { body?: FormData | Blob }
    : { body: BodyOf<E> | FormData });

type Build = EndpointBuilder<Ask, Tag, "api">;

/** What a query has beside its request: what its answer is about, and how long it is kept once no page shows it, in seconds. */
interface QueryOptions {
  providesTags?: readonly Tag[];
  keepUnusedDataFor?: number;
}

/** What a mutation has beside its request: what it changes. */
interface MutationOptions {
  invalidatesTags?: readonly Tag[];
}

/** How the argument of a hook becomes the parts of the request. */
interface Of<E extends Endpoint, Arg> {
  of: (arg: Arg) => PartsOf<E>;
}

/** An endpoint that wants nothing but to be asked. */
type Plain<E extends Endpoint> = Record<never, unknown> extends PartsOf<E> ? E : never;

/** A request to an endpoint with its parts filled in. */
export function asks<E extends Endpoint>(endpoint: E, parts: PartsOf<E>): Asked {
  return { ...parts, endpoint } as Asked;
}

/** A query of what an endpoint answers, read by a hook. The types of request and answer are the contract's. */
export function reads<E extends Endpoint>(
  build: Build,
  endpoint: Plain<E>,
  options?: QueryOptions,
): ReturnType<typeof queryOf<E, void>>;
export function reads<E extends Endpoint, Arg>(
  build: Build,
  endpoint: E,
  options: Of<E, Arg> & QueryOptions,
): ReturnType<typeof queryOf<E, Arg>>;
export function reads<E extends Endpoint, Arg>(
  build: Build,
  endpoint: E,
  options: Partial<Of<E, Arg>> & QueryOptions = {},
) {
  return queryOf(build, endpoint, options);
}

function queryOf<E extends Endpoint, Arg>(
  build: Build,
  endpoint: E,
  { of, ...options }: Partial<Of<E, Arg>> & QueryOptions,
) {
  return build.query<AnswerOf<E>, Arg>({
    ...options,
    query: (arg) => asks(endpoint, of === undefined ? ({} as PartsOf<E>) : of(arg)),
  });
}

/** A request that changes something. The types of request and answer are the contract's. */
export function sends<E extends Endpoint>(
  build: Build,
  endpoint: Plain<E>,
  options?: MutationOptions,
): ReturnType<typeof mutationOf<E, void>>;
export function sends<E extends Endpoint, Arg>(
  build: Build,
  endpoint: E,
  options: Of<E, Arg> & MutationOptions,
): ReturnType<typeof mutationOf<E, Arg>>;
export function sends<E extends Endpoint, Arg>(
  build: Build,
  endpoint: E,
  options: Partial<Of<E, Arg>> & MutationOptions = {},
) {
  return mutationOf(build, endpoint, options);
}

function mutationOf<E extends Endpoint, Arg>(
  build: Build,
  endpoint: E,
  { of, ...options }: Partial<Of<E, Arg>> & MutationOptions,
) {
  return build.mutation<AnswerOf<E>, Arg>({
    ...options,
    query: (arg) => asks(endpoint, of === undefined ? ({} as PartsOf<E>) : of(arg)),
  });
}

/** The same for a request of which the hook's argument is the body. */
export function sendsBody<E extends Endpoint>(
  build: Build,
  endpoint: E,
  options: MutationOptions = {},
) {
  return build.mutation<AnswerOf<E>, BodyOf<E>>({
    ...options,
    query: (body) => ({ endpoint, body }),
  });
}

/** A query that is read page by page: each answer says where the next page begins after, or null. */
export function readsPages<E extends Endpoint, Arg>(
  build: Build,
  endpoint: E,
  {
    of,
    next,
    ...options
  }: QueryOptions & {
    of: (arg: Arg, after: number | undefined) => PartsOf<E>;
    next: (page: AnswerOf<E>) => number | null;
  },
) {
  return build.infiniteQuery<AnswerOf<E>, Arg, number | undefined>({
    ...options,
    infiniteQueryOptions: {
      initialPageParam: undefined,
      getNextPageParam: (page) => next(page) ?? undefined,
    },
    query: ({ queryArg, pageParam }) => asks(endpoint, of(queryArg, pageParam)),
  });
}
