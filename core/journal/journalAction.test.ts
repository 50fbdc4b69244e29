import { say } from "@amigo/language/say";
import { expect, test } from "vitest";
import { JOURNAL_ACTIONS, journalWords } from "./journalAction";

test("each kind of entry has words of its own", () => {
  const words = Object.keys(JOURNAL_ACTIONS).map((action) => say(journalWords(action)));
  expect(new Set(words).size).toBe(words.length);
  expect(words.filter((text) => text.trim() === "")).toEqual([]);
});

test.each(["moved house", "", "constructor", "__proto__"])(
  "what an older Amigo called %j is shown by that name",
  (action) => expect(say(journalWords(action))).toBe(action),
);
