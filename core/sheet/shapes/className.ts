import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import { isTitledName } from "../columns/titledName";
import { splitTitle } from "../columns/splitTitle";
import { lexicon, lookUp } from "../lexicon/lexicon";

/** What a line says that all rows below it belong to. */
export interface GroupNamed {
  meaning: "classes" | "teams";
  value: string;
}

const CODE = /^(?:\d{1,2}\.?[ºª]?\s?[\p{L}]{0,2}|\p{Lu}{1,2}[-.]?\d{1,2}|\p{Lu})$/u;

/** A class's name of several words: `Red 1`, `CM2 C`, `Juggling One`. */
const NAME = /^[\p{Lu}\d][^\s]*(?: [\p{Lu}\d][^\s]*){0,2}$/u;
/** Codes that name a class together: `CM2 C`, `CP A`. */
const CODES = /^(?:\p{Lu}{1,3}\d{0,2}\p{Lu}?|\d{1,2}\.?[ºª]?\p{L}?)(?: (?:\p{Lu}{1,2}|\d{1,2}))?$/u;

/** A class by its name alone where a word for class stands with it: `Class 3B`, `Klasse: 3b` and `3B` are one. */
export function plainClassName(text: string): string {
  const line = withoutTeacher(tidyLine(text));
  const words = line.split(/[\s:]+/).filter((word) => word !== "");
  if (words.length < 2) return line;
  const rest = words.slice(1).join(" ");
  const kind = kindOf(words[0] ?? "");
  const isName = CODE.test(rest) || (kind === "classes" && NAME.test(rest));
  return kind !== undefined && (isName || /^[^:]{2,24}:/.test(line)) ? rest : line;
}

/** `Class 3B - Ms Hale` without who teaches it. */
function withoutTeacher(line: string): string {
  const [, front = "", behind = ""] =
    /^(.{1,40}?)\s*(?:[-–—,(|]|\s{2,})\s*(.+?)\)?$/u.exec(line) ?? [];
  return front !== "" && isTitledName(behind) ? front.trim() : line;
}

/**
 * Finds the class or team that a line above a table, a sheet's or a file's name speaks of: `Class: 3B`, `4a Klasse`,
 * `U12 girls`. Undefined where it names none, or several.
 */
export function groupNamedIn(text: string): GroupNamed | undefined {
  const line = tidyLine(text.replace(/[_]+/g, " "));
  const words = line.split(/[\s,;|()/–—-]+/).filter((word) => word !== "");
  const plain = behindColon(line) ?? behindWord(words) ?? behindDash(line);
  if (plain !== undefined) return plain;
  const found = besideWords(words);
  if (found.length === 0) {
    const bare = words.filter((word) => /^\d{1,2}\p{L}$/u.test(word));
    if (bare.length === 1) found.push({ meaning: "classes", value: bare[0] ?? "" });
  }
  const values = new Set(found.map(({ value }) => fold(value)));
  return values.size === 1 ? found[0] : undefined;
}

/** `Class: 3B`. */
function behindColon(line: string): GroupNamed | undefined {
  const after = /^(.{0,40}?)([\p{L}.]{2,20}(?: [\p{L}]{2,12})?)\s*:\s*([^:;|,]{1,40})/u.exec(line);
  if (after === null) return undefined;
  const [first = "", second = ""] = after[2]?.split(" ") ?? [];
  const meaning = kindOf(first) ?? kindOf(second);
  const value = tidyLine((after[3] ?? "").split(/\s{2,}| [-–—] /)[0] ?? "");
  return meaning === undefined || value === "" ? undefined : { meaning, value };
}

/** `Class 3 B`: the word for it, and then nothing but a code. */
function behindWord(words: readonly string[]): GroupNamed | undefined {
  const value = words.slice(1).join(" ");
  const meaning = words.length < 3 ? undefined : kindOf(words[0] ?? "");
  return meaning !== undefined && CODES.test(value) ? { meaning, value } : undefined;
}

/** `List of pupils - CM1 A`: behind a dash a code is a class, unless it numbers a term, a page or a version. */
function behindDash(line: string): GroupNamed | undefined {
  const value = tidyLine(line.split(/\s[-–—|]\s/).at(-1) ?? "");
  const isCode =
    value !== line && /\d/.test(value) && CODES.test(value) && !/^(?:\d+|[vqt]\d.*)$/i.test(value);
  return isCode ? { meaning: /^u-?\d/i.test(value) ? "teams" : "classes", value } : undefined;
}

/** Codes beside a word for class or team, and teams by age: `4a Klasse`, `U12`. */
function besideWords(words: readonly string[]): GroupNamed[] {
  return words.flatMap((word, at): GroupNamed[] => {
    const meaning = kindOf(word);
    const next = words[at + 1] ?? "";
    const before = words[at - 1] ?? "";
    if (meaning !== undefined && CODE.test(next)) return [{ meaning, value: next }];
    if (meaning !== undefined && CODE.test(before) && /\d/.test(before))
      return [{ meaning, value: before }];
    return /^u-?\d{1,2}$/i.test(word) ? [{ meaning: "teams", value: word }] : [];
  });
}

/** Whether a word means class or team, in any language. */
function kindOf(word: string): GroupNamed["meaning"] | undefined {
  const title = splitTitle(word);
  const found = title.length === 0 ? undefined : lookUp(title, 0, { of: lexicon() });
  if (found === undefined || found.sureness < 0.9) return undefined;
  if (found.senses.some(({ concept, weak }) => concept === "class" && !weak)) return "classes";
  if (found.senses.some(({ concept, weak }) => concept === "team" && !weak)) return "teams";
  return found.senses.some(({ concept }) => concept === "class") ? "classes" : undefined;
}

/** Whether a line names a class, team or level with a word for it. */
export function saysGroup(text: string): boolean {
  const words = splitTitle(text);
  for (let at = 0; at < words.length; at++) {
    const found = lookUp(words, at, { of: lexicon() });
    if (
      found !== undefined &&
      found.sureness >= 0.9 &&
      found.senses.some(
        ({ concept }) => concept === "class" || concept === "team" || concept === "level",
      )
    )
      return true;
  }
  return false;
}
