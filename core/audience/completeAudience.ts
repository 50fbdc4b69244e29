import { fold } from "../text/fold";
import type { Expected, NameKind } from "./audience";
import type { HouseWords } from "./houseWords";
import { LONGEST, Parser } from "./parser";
import { tokens } from "./tokens";

/** One way to go on. `text` takes the place of what stands from `from` to the cursor. */
export interface Completion {
  text: string;
  /** What it is, for people: `class`, `site`, `student` … */
  what: string;
  from: number;
}

const MOST = 12;

/** Proposes how an audience text can go on at its end, in words of the language and names of the house. */
export function completeAudience(text: string, words: HouseWords): Completion[] {
  if (text.length > LONGEST) return [];
  const last = tokens(text).at(-1);
  const isOpen = last?.kind === "open name";
  const isTyping = isOpen || (last?.kind === "word" && last.at + last.length === text.length);
  // Of a name without quotes, all of its words are what is typed.
  const { openName } = Parser.run(text, (parser) => parser.audience());
  const from = openName ?? (isTyping && last !== undefined ? last.at : text.length);
  const start = fold(
    openName !== undefined ? text.slice(openName) : isTyping ? (last?.text ?? "") : "",
  );
  const parsed = Parser.run(text.slice(0, from), (parser) => parser.audience());
  const found: Completion[] = [];
  const add = (completion: string, what: string, key = completion): void => {
    if (
      found.length < MOST &&
      fold(key)
        .split(" ")
        .some((_, index, all) => all.slice(index).join(" ").startsWith(start)) &&
      !found.some((other) => other.text === completion)
    )
      found.push({ text: completion, what, from });
  };
  for (const expected of parsed.expected)
    if ("word" in expected && !isOpen && /^[a-z]/.test(expected.word) && start !== "")
      add(expected.word, "");
  for (const expected of parsed.expected)
    if ("name" in expected)
      for (const { name, what } of namesFor(expected, words, start))
        add(
          name,
          what,
          name.replace(/["(].*?["]?/u, (sign) => (sign === '"' ? "" : sign)),
        );
  for (const expected of parsed.expected)
    if ("word" in expected && !isOpen && start === "") add(expected.word, "");
  return found.filter((completion) => fold(completion.text) !== start || isOpen);
}

function namesFor(
  expected: Extract<Expected, { name: NameKind }>,
  words: HouseWords,
  start: string,
): { name: string; what: string }[] {
  const quoted = (name: string, what: string) => ({ name: `"${name}"`, what });
  switch (expected.name) {
    case "person":
      return start === ""
        ? []
        : words.peopleLike(start).map(({ name, hint }) => ({
            name: words.people(name).length > 1 ? `"${name}" (${hint})` : `"${name}"`,
            what: "person",
          }));
    case "site":
      return words.sites.map((name) => quoted(name, "site"));
    case "level":
      return words.levels.map((name) => ({
        name: /^\d+$/.test(name) ? name : `"${name}"`,
        what: "level",
      }));
    case "season":
      return [{ name: words.season, what: "season" }];
    case "column":
      return words.columns.map(({ name }) => ({
        name: /^[\p{L}\p{N}_-]+$/u.test(name) ? name : `"${name}"`,
        what: "column",
      }));
    case "value":
      return (
        words.columns.find(({ name }) => fold(name) === fold(expected.column ?? ""))?.values ?? []
      ).map((name) => ({ name: /^\d+$/.test(name) ? name : `"${name}"`, what: "value" }));
    case "cohort or site":
      return [
        ...words.cohorts.map(({ name, kind }) => quoted(name, kind)),
        ...words.sites.map((name) => quoted(name, "site")),
      ];
    default:
      return words.cohorts
        .filter(({ kind }) => kind === expected.name)
        .map(({ name, kind }) => quoted(name, kind));
  }
}
