import * as z from "zod";
import type { Endpoint } from "./endpoint";
import { Problem } from "./problem";

type Json = Record<string, unknown>;

/** The OpenAPI 3.1 document of the given endpoints. */
export function openApi(endpoints: readonly Endpoint[], server: string): Json {
  const paths: Record<string, Record<string, Json>> = {};
  for (const { method, path, summary, who, params, query, body, bodyType, answer } of endpoints) {
    const refused = {
      description: "A fault, as RFC 9457 problem details",
      content: { "application/problem+json": { schema: schemaOf(Problem) } },
    };
    (paths[path] ??= {})[method] = {
      summary,
      operationId: `${method} ${path}`.replace(/[^a-z]+/gi, "-").replace(/-$/, ""),
      security:
        who === "anybody"
          ? []
          : who === "member"
            ? [{ member: [] }]
            : [{ token: [] }, { session: [] }],
      "x-amigo-who": who,
      parameters: [...parametersIn(params, "path"), ...parametersIn(query, "query")],
      ...bodyIn(body, bodyType),
      responses: {
        "200": {
          description: "Done",
          content: { "application/json": { schema: schemaOf(answer) } },
        },
        default: refused,
      },
    };
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Amigo",
      version: "1",
      description:
        "Lists that follow the roster. Sign in with a token made in Settings: `Authorization: Bearer …`.",
    },
    servers: [{ url: server }],
    components: {
      securitySchemes: {
        token: { type: "http", scheme: "bearer" },
        session: { type: "apiKey", in: "cookie", name: "amigo_session" },
        member: { type: "apiKey", in: "cookie", name: "amigo_member" },
      },
    },
    paths,
  };
}

function parametersIn(shape: z.ZodObject | undefined, where: "path" | "query"): Json[] {
  if (shape === undefined) return [];
  return Object.entries(shape.shape).map(([name, schema]) => ({
    name,
    in: where,
    required: where === "path",
    schema: schemaOf(schema as z.ZodType),
  }));
}

function schemaOf(schema: z.ZodType): Json {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, {
    io: "input",
    unrepresentable: "any",
    reused: "inline",
  }) as Json;
  return rest;
}

/** What is sent along: a shape, or the octets of a file. */
function bodyIn(body: Endpoint["body"], bodyType: Endpoint["bodyType"]): Json {
  const type =
    bodyType === "octets"
      ? "application/octet-stream"
      : bodyType === "form"
        ? "multipart/form-data"
        : "application/json";
  const schema = bodyType === "octets" ? { type: "string", format: "binary" } : undefined;
  if (schema === undefined && body === undefined) return {};
  return {
    requestBody: {
      required: true,
      content: { [type]: { schema: schema ?? (body === undefined ? {} : schemaOf(body)) } },
    },
  };
}
