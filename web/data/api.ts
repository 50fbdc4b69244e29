import { t } from "../texts/app";
import { createApi, type BaseQueryFn } from "@reduxjs/toolkit/query/react";
import { LongAnswer, NDJSON, type Endpoint } from "@amigo/contract/endpoint";
import { Problem } from "@amigo/contract/problem";
import { progressTold } from "./progress";

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

/** How a request is sent and answered. */
export type Ask = BaseQueryFn<Asked, unknown, Fault>;

const ask: Ask = async ({ endpoint, params = {}, query = {}, body }, { signal, dispatch }) => {
  const path = endpoint.path.replace(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent(String(params[name] ?? "")),
  );
  const search = new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) =>
      value === undefined ? [] : [[name, String(value)]],
    ),
  );
  // A form or a file goes as it is.
  const isRaw = body instanceof FormData || body instanceof Blob;
  const address = `${path}${search.size > 0 ? `?${search}` : ""}`;
  const before = endpoint.method === "get" ? known.get(address) : undefined;
  let response: Response;
  let answer: unknown;
  try {
    response = await fetch(address, {
      method: endpoint.method.toUpperCase(),
      signal,
      ...(body === undefined ? {} : { body: isRaw ? body : JSON.stringify(body) }),
      headers: headersFor(endpoint, body !== undefined && !isRaw, before?.tag),
    });
    if (response.status === 304 && before !== undefined) return { data: before.data };
    if (endpoint.long === true && response.ok)
      return await readLines(endpoint, response, (step, share) => {
        dispatch(progressTold({ step, share }));
      });
    answer = parsed(await response.text());
  } catch {
    if (signal.aborted)
      return {
        error: {
          status: 0,
          type: "stopped",
          detail: t("app.stopped"),
          field: undefined,
        },
      };
    return {
      error: {
        status: 0,
        type: "offline",
        detail: t("app.noConnection"),
        field: undefined,
      },
    };
  } finally {
    if (endpoint.long === true) dispatch(progressTold(null));
  }
  // Who has signed out leaves nothing behind.
  if (response.status === 401) known.clear();
  if (!response.ok) return { error: faultIn(answer, response.status) };
  const data = endpoint.answer.parse(answer);
  keep(address, endpoint, response.headers.get("ETag"), data);
  return { data };
};

function headersFor(
  endpoint: Endpoint,
  isJson: boolean,
  tag: string | undefined,
): Record<string, string> {
  return {
    ...(isJson ? { "Content-Type": "application/json" } : {}),
    ...(endpoint.long === true ? { Accept: NDJSON } : {}),
    ...(tag === undefined ? {} : { "If-None-Match": tag }),
  };
}

/** The last answers by their addresses, so that what is still the same need not come again. Browsers keep none of them: they hold personal data. */
const known = new Map<string, { tag: string; data: unknown }>();
const MOST_KNOWN = 60;

function keep(address: string, endpoint: Endpoint, tag: string | null, data: unknown): void {
  if (endpoint.method !== "get" || tag === null) return;
  known.delete(address);
  known.set(address, { tag, data });
  const [oldest] = known.keys();
  if (known.size > MOST_KNOWN && oldest !== undefined) known.delete(oldest);
}

/** JSON, or undefined where a proxy in between answered with a page of its own. */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

function faultIn(answer: unknown, status: number): Fault {
  const problem = Problem.safeParse(answer);
  return {
    status,
    type: problem.data?.type.replace("urn:amigo:fault:", "") ?? "failed",
    detail: problem.data?.detail ?? t("app.couldNotDoThis"),
    field: problem.data?.field,
  };
}

/** Reads the answer to a long request line by line: how far it is, then the result. */
async function readLines(
  endpoint: Endpoint,
  response: Response,
  tell: (step: string, share: number) => void,
): Promise<{ data: unknown } | { error: Fault }> {
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  let result: { data: unknown } | { error: Fault } | undefined;
  // Read to the very end: a body that is left half read holds its connection, and a browser has few.
  for (
    let part = await reader?.read();
    part !== undefined && !part.done;
    part = await reader?.read()
  ) {
    const lines = (rest + part.value).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) {
      const said = LongAnswer.parse(JSON.parse(line));
      if ("progress" in said) tell(said.progress.step, said.progress.share);
      else if ("problem" in said) result = { error: faultIn(said.problem, said.problem.status) };
      else result = { data: endpoint.answer.parse(said.answer) };
    }
  }
  return (
    result ?? {
      error: {
        status: 0,
        type: "broken-off",
        detail: t("app.connectionLost"),
        field: undefined,
      },
    }
  );
}

/** What answers are about: a change of one of these fetches its answers again. */
const TAGS = [
  "board",
  "rounds",
  "sources",
  "posts",
  "house",
  "people",
  "private",
  "me",
  "forms",
  "intakes",
  "dates",
  "feeds",
  "shelf",
] as const;
export type Tag = (typeof TAGS)[number];

/** All data of the pages. Each place adds its own requests to it. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: ask,
  tagTypes: TAGS,
  refetchOnReconnect: true,
  endpoints: () => ({}),
});

/** The sentence of whatever a mutation or query failed with. */
export function sentenceOf(error: unknown): string | undefined {
  if (error === undefined || error === null) return undefined;
  if (typeof error === "object" && "detail" in error && typeof error.detail === "string")
    return error.detail;
  return t("app.answerNotUnderstood");
}
