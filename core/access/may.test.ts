import { describe, expect, test } from "vitest";
import { HOUSE_ROLES, MAY, may, type Action } from "./may";

describe("who may do what", () => {
  test("a coordinator may do everything", () => {
    for (const action of Object.keys(MAY) as Action[])
      expect(may("coordinator", action), action).toBe(true);
  });

  test.each([
    "read a source",
    "decide a round",
    "manage tokens",
    "export people",
    "see sources",
  ] satisfies Action[])("only a coordinator may %s", (action) => {
    expect(HOUSE_ROLES.filter((role) => may(role, action))).toEqual(["coordinator"]);
  });

  test.each(["see people", "decide on people", "see the journal"] satisfies Action[])(
    "a site coordinator may %s, too, within their site",
    (action) => {
      expect(HOUSE_ROLES.filter((role) => may(role, action))).toEqual([
        "coordinator",
        "site coordinator",
      ]);
    },
  );

  test.each([
    "see the board",
    "write to lists",
    "see posts",
    "change lists",
    "make forms",
    "ask for permission",
  ] satisfies Action[])("staff may %s, within what they lead", (action) => {
    expect(HOUSE_ROLES.filter((role) => may(role, action))).toEqual([
      "coordinator",
      "site coordinator",
      "staff",
    ]);
  });

  test("a helper adds rows to single sources, fills the intakes that were given to them, looks after their own account, and nothing else", () => {
    expect((Object.keys(MAY) as Action[]).filter((action) => may("helper", action)).sort()).toEqual(
      ["add rows", "fill intakes", "manage own account", "see who is signed in"],
    );
  });
});
