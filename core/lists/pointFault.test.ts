import { describe, expect, test } from "vitest";
import { LIST_POINTS } from "./listPoint";
import { pointFault as pointFaultUnsaid } from "./pointFault";
import { spoken } from "../testing/spoken";

const pointFault = spoken(pointFaultUnsaid);

const known = {
  isStaff: (id: string): boolean => id === "account:juno" || id === "account:teo",
  isPreset: (id: string): boolean => id === "announcement-only",
};

describe("what a point of a list may hold", () => {
  test.each([
    ["title", "Trapeze Two, families"],
    ["description", ""],
    ["short", "trap, t2"],
    ["leads", ""],
    ["leads", "coach"],
    ["leads", "account:juno account:teo"],
    ["findable", "staff"],
    ["outside", "any"],
    ["leaving", "through a lead"],
    ["adding", "ask"],
    ["state", "closed"],
    ["season", "this season only"],
    ["preset", "announcement-only"],
    ["welcome", "Dear all,\nwelcome."],
    ["audience", ""],
  ] as const)("%s: %j will do", (point, value) =>
    expect(pointFault(point, value, known)).toBeUndefined(),
  );

  test.each([
    ["title", " ", /display name/],
    ["title", "x".repeat(121), /120 characters/],
    ["title", "Wire\r\nBcc: all@lettr.example", /one line/],
    ["description", "a\u2028b", /one line/],
    ["leads", "account:nobody", /Nobody on the staff/],
    ["leads", "coach account:juno", /Nobody on the staff is known as "coach"/],
    ["findable", "everybody", /can't be chosen/],
    ["preset", "shout", /no posting rules called "shout"/],
    ["state", "", /can't be chosen/],
    ["adding", "loudly", /can't be chosen/],
    ["welcome", "x".repeat(5001), /5000 characters/],
  ] as const)("%s: %j will not", (point, value, sentence) =>
    expect(pointFault(point, value, known)).toMatch(sentence),
  );

  test("every point is looked at without a fault of our own", () => {
    for (const point of LIST_POINTS)
      expect(["undefined", "string"]).toContain(typeof pointFault(point, "", known));
  });
});
