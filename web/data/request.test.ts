import * as z from "zod";
import { describe, expect, test } from "vitest";
import { endpoint } from "@amigo/contract/endpoint";
import { asks, type BodyOf } from "./request";

const getSheet = endpoint({
  method: "get",
  path: "/api/sheets/{id}/rows/{row}",
  summary: "A row of a sheet",
  who: "anybody",
  params: z.object({ id: z.string(), row: z.string() }),
  query: z.object({ from: z.number().default(0) }),
  answer: z.object({ cells: z.array(z.string()) }),
});
const postName = endpoint({
  method: "post",
  path: "/api/names",
  summary: "Give a name",
  who: "anybody",
  body: z.object({ name: z.string(), short: z.string().default("") }),
  answer: z.object({ done: z.literal(true) }),
});

describe("a request is checked against the contract before it is sent", () => {
  test("its parts are those of the endpoint", () => {
    expect(asks(getSheet, { params: { id: "a", row: "3" } })).toEqual({
      endpoint: getSheet,
      params: { id: "a", row: "3" },
    });
    expect(asks(postName, { body: { name: "Silks" } }).body).toEqual({ name: "Silks" });
  });

  // The compiler is what is tested here: each line below must be an error to it, or the check of types fails.
  test("a wrong field, a path parameter that isn't there, and a missing part are errors of types", () => {
    // @ts-expect-error the parameter is called row
    asks(getSheet, { params: { id: "a", line: "3" } });
    // @ts-expect-error a parameter is missing
    asks(getSheet, { params: { id: "a" } });
    // @ts-expect-error there is no such field
    asks(postName, { body: { title: "Silks" } });
    // @ts-expect-error the name is a text
    asks(postName, { body: { name: 3 } });
    // @ts-expect-error the body is missing
    asks(postName, {});
    // @ts-expect-error it takes no parameters
    asks(postName, { params: { id: "a" }, body: { name: "Silks" } });
    const body: BodyOf<typeof postName> = { name: "Silks" };
    expect(body.short).toBeUndefined();
  });

  test("a path whose names aren't those of its parameters is an error of types", () => {
    const wrong = endpoint({
      method: "get",
      // @ts-expect-error the shape below calls it number
      path: "/api/things/{id}",
      summary: "A thing",
      who: "anybody",
      params: z.object({ number: z.string() }),
      answer: z.null(),
    });
    const without = endpoint({
      method: "get",
      // @ts-expect-error no shape says what id is
      path: "/api/things/{id}",
      summary: "A thing",
      who: "anybody",
      answer: z.null(),
    });
    expect([wrong.path, without.path]).toEqual(["/api/things/{id}", "/api/things/{id}"]);
  });
});
