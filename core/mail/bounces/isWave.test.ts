import fc from "fast-check";
import { expect, test } from "vitest";
import { isWave } from "./isWave";

test.each([
  ["domain", 50, 50, true],
  ["domain", 5, 10, true],
  ["domain", 4, 4, false],
  ["domain", 5, 11, false],
  ["mail", 50, 50, true],
  ["mail", 10, 40, true],
  ["mail", 9, 9, false],
  ["mail", 10, 41, false],
] as const)("of a %s, %i of %i: %s", (scope, failed, tried, wave) =>
  expect(isWave(scope, { failed, tried })).toBe(wave),
);

test("more failures of as many never make less of a wave", () =>
  fc.assert(
    fc.property(fc.nat(100), fc.nat(100), fc.constantFrom("domain", "mail"), (a, more, scope) => {
      const tried = a + more + 1;
      expect(!isWave(scope, { failed: a, tried }) || isWave(scope, { failed: a + 1, tried })).toBe(
        true,
      );
    }),
  ));
