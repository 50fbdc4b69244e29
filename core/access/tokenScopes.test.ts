import { describe, expect, test } from "vitest";
import { MAY, type Action } from "./may";
import { TOKEN_SCOPE_NAMES, tokenMay } from "./tokenScopes";

const NEVER: readonly Action[] = [
  "manage tokens",
  "manage accounts",
  "see accounts",
  "manage own account",
  "forget people",
];

describe("an API token", () => {
  test.each(NEVER)("may never %s, whatever its scopes", (action) =>
    expect(tokenMay(TOKEN_SCOPE_NAMES, action)).toBe(false),
  );

  test("with all scopes may do everything else", () => {
    const actions = (Object.keys(MAY) as Action[]).filter((action) => !NEVER.includes(action));
    expect(actions.filter((action) => !tokenMay(TOKEN_SCOPE_NAMES, action))).toEqual([]);
  });

  test("with one scope does nothing of another", () => {
    expect(tokenMay(["read lists"], "see lists")).toBe(true);
    expect(tokenMay(["read lists"], "write to lists")).toBe(false);
    expect(tokenMay(["read lists"], "see people")).toBe(false);
    expect(tokenMay(["send"], "change the house")).toBe(false);
    expect(tokenMay([], "see lists")).toBe(false);
  });
});
