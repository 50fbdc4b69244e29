import { expect, test } from "vitest";
import { t } from "./changes";

test("a text of the interface gets its places, counts and choices filled", () => {
  expect(t("changes.bringListsInStep", { lists: 1 })).toBe("Bring 1 list in step");
  expect(t("changes.bringListsInStep", { lists: 1200 })).toBe("Bring 1,200 lists in step");
});
