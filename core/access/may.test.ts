import { describe, expect, test } from "vitest";
import { HOUSE_ROLES, MAY, may, type Action } from "./may";

describe("who may do what", () => {
  test("a coordinator may do everything", () => {
    for (const action of Object.keys(MAY) as Action[]) expect(may("coordinator", action), action).toBe(true);
  });

  test.each(["read a source", "decide a round", "manage tokens", "see the journal", "see sources"] satisfies Action[])("only a coordinator may %s", (action) => {
    expect(HOUSE_ROLES.filter((role) => may(role, action))).toEqual(["coordinator"]);
  });

  test.each(["see the board", "write to lists", "see posts"] satisfies Action[])("everybody with an account may %s, within what they lead", (action) => {
    expect(HOUSE_ROLES.filter((role) => may(role, action))).toEqual([...HOUSE_ROLES]);
  });
});
