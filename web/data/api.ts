import { createApi, type BaseQueryFn } from "@reduxjs/toolkit/query/react";
import type { Endpoint } from "@amigo/contract/endpoint";
import { Problem } from "@amigo/contract/problem";

/** A request as the contract has it, with its parts filled in. */
export interface Asked {
  endpoint: Endpoint;
  params?: Record<string, string | number>;
  query?: Record<string, string | number | undefined>;
  body?: unknown;
}

/** What went wrong with a request, in a sentence for people. */
export interface Fault {
  status: number;
  type: string;
  detail: string;
  field: string | undefined;
}

const ask: BaseQueryFn<Asked, unknown, Fault> = async ({ endpoint, params = {}, query = {}, body }, { signal }) => {
  const path = endpoint.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(String(params[name] ?? "")));
  const search = new URLSearchParams(Object.entries(query).flatMap(([name, value]) => (value === undefined ? [] : [[name, String(value)]])));
  const form = body instanceof FormData;
  let response: Response;
  try {
    response = await fetch(`${path}${search.size > 0 ? `?${search}` : ""}`, {
      method: endpoint.method.toUpperCase(),
      signal,
      ...(body === undefined ? {} : { body: form ? body : JSON.stringify(body) }),
      ...(body === undefined || form ? {} : { headers: { "Content-Type": "application/json" } }),
    });
  } catch {
    return { error: { status: 0, type: "offline", detail: "Amigo does not answer. Check the connection and try again.", field: undefined } };
  }
  const answer: unknown = await response.json().catch(() => undefined);
  if (!response.ok) {
    const problem = Problem.safeParse(answer);
    const detail = problem.success ? problem.data.detail : "Amigo could not do this. Try again in a moment.";
    return { error: { status: response.status, type: problem.data?.type.replace("urn:amigo:fault:", "") ?? "failed", detail, field: problem.data?.field } };
  }
  return { data: endpoint.answer.parse(answer) };
};

/** All data of the pages. Each place adds its own requests to it. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: ask,
  tagTypes: ["board", "rounds", "sources", "posts", "house", "me"],
  refetchOnReconnect: true,
  endpoints: () => ({}),
});

/** The sentence of whatever a mutation or query failed with. */
export function sentenceOf(error: unknown): string | undefined {
  if (error === undefined || error === null) return undefined;
  if (typeof error === "object" && "detail" in error && typeof error.detail === "string") return error.detail;
  return "The answer was not understood. Reload the page.";
}
