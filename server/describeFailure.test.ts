import { DrizzleQueryError } from "drizzle-orm";
import { DatabaseError } from "pg";
import { expect, test } from "vitest";
import { describeFailure } from "./describeFailure";

const SECRET = "Hana Vass, hana.vass@oakmail.example";

test("a failed query is told by its words, its code and its place, never by what was in it", () => {
  const cause = new DatabaseError(`invalid input syntax for type uuid: "${SECRET}"`, 10, "error");
  cause.code = "22P02";
  const failure = new DrizzleQueryError("select * from person where name = $1", [SECRET], cause);
  const told = describeFailure(failure);
  expect(told).toContain("select * from person where name = $1");
  expect(told).toContain("22P02");
  expect(told).toMatch(/ {4}at .*describeFailure\.test/);
  expect(told).not.toMatch(/Hana|oakmail/);
});

test("other failures keep their kind, code and cause, and no address", () => {
  const failure = new Error(`mail to ${SECRET} failed`, {
    cause: Object.assign(new Error("connect ECONNREFUSED"), { code: "ECONNREFUSED" }),
  });
  const told = describeFailure(failure);
  expect(told).toContain("ECONNREFUSED");
  expect(told).not.toContain("oakmail");
  expect(describeFailure("text")).toBe("text");
  expect(describeFailure(undefined)).toBe("");
});
