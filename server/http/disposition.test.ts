import { expect, test } from "vitest";
import { disposition } from "./disposition";

test.each([
  ["plan.txt", "attachment; filename*=UTF-8''plan.txt"],
  [
    "Où (2) — l'été*.txt",
    "attachment; filename*=UTF-8''O%C3%B9%20%282%29%20%E2%80%94%20l%27%C3%A9t%C3%A9%2A.txt",
  ],
  ['a"; filename="b.exe', "attachment; filename*=UTF-8''a%22%3B%20filename%3D%22b.exe"],
  ["half a sign \ud83d", "attachment; filename*=UTF-8''half%20a%20sign%20%EF%BF%BD"],
])("the name of %j leads nowhere else", (name, wanted) => {
  expect(disposition("attachment", name)).toBe(wanted);
});
