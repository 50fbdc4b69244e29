import { expect, test } from "vitest";
import * as z from "zod";
import { MAY } from "@amigo/core/access/may";
import { endpoint } from "./endpoint";
import { ALL_ENDPOINTS } from "./endpoints";
import { openApi } from "./openApi";
import { Plan } from "./sources";

test("an endpoint is described with its parameters, body, answer and who may ask", () => {
  const described = openApi(
    [
      endpoint({
        method: "post",
        path: "/api/lists/{id}/try",
        summary: "Try",
        who: "try an address",
        params: z.object({ id: z.uuid() }),
        query: z.object({ loud: z.string().optional() }),
        body: z.object({ address: z.string().min(1) }),
        answer: z.object({ outcome: z.enum(["goes out", "returned"]) }),
      }),
    ],
    "http://localhost:8080",
  ) as { openapi: string; paths: Record<string, Record<string, Record<string, unknown>>> };
  expect(described.openapi).toBe("3.1.0");
  expect(described.paths["/api/lists/{id}/try"]?.post).toMatchObject({
    operationId: "post-api-lists-id-try",
    "x-amigo-who": "try an address",
    security: [{ token: [] }, { session: [] }],
    parameters: [
      { name: "id", in: "path", required: true, schema: { type: "string", format: "uuid" } },
      { name: "loud", in: "query", required: false },
    ],
    requestBody: {
      content: { "application/json": { schema: { type: "object", required: ["address"] } } },
    },
    responses: {
      200: {
        content: {
          "application/json": {
            schema: { properties: { outcome: { enum: ["goes out", "returned"] } } },
          },
        },
      },
    },
  });
});

test("what anybody may ask needs no key, a file goes as a form", () => {
  const { paths } = openApi(ALL_ENDPOINTS, "") as {
    paths: Record<
      string,
      Record<string, { security: unknown[]; requestBody?: { content: object } }>
    >;
  };
  expect(paths["/api/health"]?.get?.security).toEqual([]);
  expect(Object.keys(paths["/api/sources"]?.post?.requestBody?.content ?? {})).toEqual([
    "multipart/form-data",
  ]);
});

test("every endpoint has its own method and path, a summary, and a right that the table knows", () => {
  const names = ALL_ENDPOINTS.map(({ method, path }) => `${method} ${path}`);
  expect(new Set(names).size).toBe(names.length);
  for (const { summary, who, path, params } of ALL_ENDPOINTS) {
    expect(summary.length).toBeGreaterThan(10);
    expect(who === "anybody" || who === "member" || who in MAY).toBe(true);
    expect([...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1])).toEqual(
      Object.keys(params?.shape ?? {}),
    );
  }
});

test.each([
  [{ sheet: "S", headerRow: -2, columns: [] }],
  [{ sheet: "S", headerRow: 0, columns: [{ title: "x", meaning: "weather", slot: 0 }] }],
  [
    {
      sheet: "S",
      headerRow: 0,
      columns: Array.from({ length: 257 }, () => ({ title: "x", meaning: "unread", slot: 0 })),
    },
  ],
  [{ headerRow: 0, columns: [] }],
])("a plan that can not be is refused: %#", (plan) => {
  expect(Plan.safeParse(plan).success).toBe(false);
});
