import { lookUp, type Lexicon } from "../lexicon/lexicon";
import { splitTitle } from "./splitTitle";
import { orderOfParts } from "./orderOfParts";
import { HeardInTitle } from "./heardInTitle";
import type { TitleReading, Languages } from "./titleReading";

const EMPTY: TitleReading = {
  whose: new Map(),
  what: new Map(),
  slot: "",
  order: "",
  known: false,
  words: 0,
  strange: [],
};

/** Reads a title, and the joined title above it where there is one: what the lower one leaves open, the upper one says. */
export function readTitle(
  { title, group }: { title: string; group: string },
  languages: Languages,
  of: Lexicon,
): TitleReading {
  const titleReading = readOne(title, languages, of);
  if (group === "") return titleReading;
  const above = readOne(group, languages, of);
  return {
    whose: titleReading.whose.size === 0 ? above.whose : titleReading.whose,
    what: titleReading.what.size === 0 ? above.what : titleReading.what,
    slot: titleReading.slot === "" ? above.slot : titleReading.slot,
    order: titleReading.order,
    known: titleReading.known || above.known,
    words: titleReading.words + above.words,
    strange: [...titleReading.strange, ...above.strange],
  };
}

const SHORTEST_STRANGE = 3;

const WITH_BRACKETS = /^(.{1,100}?)\s*[([{](.{1,100})[)\]}]\s*$/u;

/** Reads one title. What stands in brackets behind it says more of whose it is, not what it is: `First name (goes by)`. */
function readOne(title: string, languages: Languages, of: Lexicon): TitleReading {
  const all = readWords(title, languages, of);
  const front = WITH_BRACKETS.exec(title)?.[1];
  const found = front === undefined ? undefined : readWords(front, languages, of);
  if (found === undefined || all.order !== "") return all;
  // "First" alone is the first name: there is nothing else that it could be the first of.
  if (found.words === 1 && found.slot === "1" && found.whose.size === 0)
    return { ...found, what: new Map([["given", 0.8]]), slot: "" };
  if (found.what.size === 0) return all;
  return {
    ...all,
    whose: found.whose.size === 0 ? all.whose : found.whose,
    what: found.what,
    slot: found.slot === "" ? all.slot : found.slot,
  };
}

function readWords(title: string, languages: Languages, of: Lexicon): TitleReading {
  const words = splitTitle(title);
  if (words.length === 0) return EMPTY;
  const heard = new HeardInTitle(languages);
  const strange: string[] = [];
  let known = false;
  for (let at = 0; at < words.length;) {
    const slot = slotSaid(words, at);
    if (slot !== undefined) {
      if (slot !== "") heard.which.add(slot);
      at++;
      continue;
    }
    const found = lookUp(words, at, { of });
    const isSmall = of.small.has(words[at] ?? "") && found?.words === 1 && found.sureness < 1;
    if (found === undefined || isSmall) {
      const word = words[at] ?? "";
      if (!isSmall && word.length >= SHORTEST_STRANGE) strange.push(word);
      at++;
      continue;
    }
    at += found.words;
    known = true;
    heard.hear(found, at);
  }
  const order = orderOfParts(words, languages, of);
  return { ...heard.settle(order), order, known, words: words.length, strange };
}

/** Which of several a word counts: `2`, or the letter of `parent B`; empty for a larger number, undefined for another word. */
function slotSaid(words: readonly string[], at: number): string | undefined {
  const word = words[at] ?? "";
  if (/^\d{1,2}$/.test(word))
    return Number(word) >= 1 && Number(word) <= 9 ? String(Number(word)) : "";
  return /^[abc]$/.test(word) && words.length > 1 && at > 0
    ? String(word.charCodeAt(0) - 96)
    : undefined;
}
