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
  const { from, start, isOpen } = typedIn(text);
  const { expected } = Parser.run(text.slice(0, from), (parser) => parser.audience());
  const wordsNext = isOpen
    ? []
    : expected.flatMap((one) =>
        "word" in one ? [{ text: one.word, what: "", key: one.word }] : [],
      );
  const namesNext = expected.flatMap((one) =>
    "name" in one
      ? namesFor(one, words, start).map(({ name, what }) => ({
          text: name,
          what,
          key: name.replace(/["(].*?["]?/u, (sign) => (sign === '"' ? "" : sign)),
        }))
      : [],
  );
  // Before anything is typed, names come first; then words of the language that begin as it does.
  const ways =
    start === ""
      ? [...namesNext, ...wordsNext]
      : [...wordsNext.filter(({ text: word }) => /^[a-z]/.test(word)), ...namesNext];
  const found = new Map<string, Completion>();
  for (const { text: completion, what, key } of ways)
    if (found.size < MOST && !found.has(completion) && hasWordFrom(key, start))
      found.set(completion, { text: completion, what, from });
  return [...found.values()].filter((one) => fold(one.text) !== start || isOpen);
}

/** Returns what is being typed at the end of a text: where it begins, folded, and whether it is a name after an open quote. */
function typedIn(text: string): { from: number; start: string; isOpen: boolean } {
  const last = tokens(text).at(-1);
  const isOpen = last?.kind === "open name";
  // Of a name without quotes, all of its words are what is typed.
  const { openName } = Parser.run(text, (parser) => parser.audience());
  if (openName !== undefined) return { from: openName, start: fold(text.slice(openName)), isOpen };
  const isTyping = isOpen || (last?.kind === "word" && last.at + last.length === text.length);
  return isTyping && last !== undefined
    ? { from: last.at, start: fold(last.text), isOpen }
    : { from: text.length, start: "", isOpen };
}

/** Whether a text has a word from which on it begins with what is typed. */
function hasWordFrom(text: string, start: string): boolean {
  return fold(text)
    .split(" ")
    .some((_, index, all) => all.slice(index).join(" ").startsWith(start));
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
