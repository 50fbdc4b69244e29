import type { Concept } from "../lexicon/language";
import { lookUp, type Lexicon, type Sense } from "../lexicon/lexicon";
import { splitTitle } from "./splitTitle";

/** Whose column a title says it is. */
export type Whose = "student" | "guardian" | "household" | "staff" | "emergency" | "other";

/** A title, taken apart into whose column it is and what it holds. Weights run from 0 to 1. */
export interface TitleReading {
  whose: ReadonlyMap<Whose, number>;
  what: ReadonlyMap<Concept, number>;
  /** Which of several it is: a number, `mother`, `father`; empty where it doesn't say. */
  slot: string;
  /** Which part of a name it says comes first, where it names both. */
  order: "family first" | "given first" | "";
  /** Whether any of its words is known. */
  known: boolean;
  /** The number of its words. */
  words: number;
}

/** How likely each language is, 0 to 1. */
export type Languages = ReadonlyMap<string, number>;

const WHOSE: Partial<Record<Concept, Whose>> = {
  student: "student",
  guardian: "guardian",
  mother: "guardian",
  father: "guardian",
  self: "guardian",
  household: "household",
  staff: "staff",
  emergency: "emergency",
  doctor: "other",
  sibling: "other",
};

const WHICH: Partial<Record<Concept, string>> = {
  first: "1",
  second: "2",
  third: "3",
  fourth: "4",
  fifth: "5",
  mother: "mother",
  father: "father",
};

/** What speaks loudest in a title, loudest first: a "class teacher email" is an email. */
const LOUDNESS: readonly (readonly Concept[])[] = [
  ["health", "consent", "private", "money"],
  ["phone", "birth", "submitted", "relation", "season", "gender"],
  ["email"],
  ["street", "postcode", "notes"],
  ["nickname", "prefix"],
  ["surname", "given"],
  ["number"],
  ["level"],
  ["class", "team"],
  ["address", "town", "site"],
  ["counter"],
  ["name"],
];
/** Languages whose main word comes first: "profesor de la clase". */
const HEAD_FIRST = new Set(["fr", "es", "pt", "it", "pl", "cs"]);
const SECOND = 0.35;
const WEAK = 0.55;
const UNLIKELY_LANGUAGE = 0.15;
const FOREIGN = 0.35;
const EMPTY: TitleReading = {
  whose: new Map(),
  what: new Map(),
  slot: "",
  order: "",
  known: false,
  words: 0,
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
  };
}

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
  const whose = new Map<Whose, number>();
  const what = new Map<Concept, number>();
  const which = new Set<string>();
  let self = 0;
  let known = false;
  /** Where a word for class or team, and one for a teacher, stand last. */
  const heads = { group: -1, staff: -1, last: true };
  for (let at = 0; at < words.length;) {
    const word = words[at] ?? "";
    if (/^\d{1,2}$/.test(word)) {
      if (Number(word) >= 1 && Number(word) <= 9) which.add(String(Number(word)));
      at++;
      continue;
    }
    const letter = /^[abc]$/.test(word) && words.length > 1 && at > 0;
    const found = letter ? undefined : lookUp(words, at, { of });
    if (letter) which.add(String(word.charCodeAt(0) - 96));
    if (found === undefined || (of.small.has(word) && found.words === 1 && found.sureness < 1)) {
      at++;
      continue;
    }
    at += found.words;
    known = true;
    for (const [concept, weight] of weighSenses(found.senses, found.sureness, languages)) {
      if (weight > 0.5 && (concept === "class" || concept === "team")) {
        heads.group = at;
        heads.last = !found.senses.some(
          ({ language }) => HEAD_FIRST.has(language) && (languages.get(language) ?? 0) >= 1,
        );
      }
      if (weight > 0.5 && concept === "staff") heads.staff = at;
      const who = WHOSE[concept];
      const slot = WHICH[concept];
      if (concept === "self") self = Math.max(self, weight);
      else if (who !== undefined) whose.set(who, Math.max(whose.get(who) ?? 0, weight));
      if (slot !== undefined && weight > 0.5) which.add(slot);
      if (who === undefined && slot === undefined) {
        what.set(concept, Math.max(what.get(concept) ?? 0, weight));
      }
    }
  }
  // A tutor group is a group, a class teacher a teacher: the last word says which, or in some languages the first.
  if (heads.group >= 0 && heads.staff >= 0 && heads.group !== heads.staff)
    if (heads.group > heads.staff === heads.last) whose.delete("staff");
  if (self > 0 && whose.size === 0) whose.set("guardian", 0.85 * self);
  // "Surname and first name" is a whole name; so is "Nom et prénom", whatever "nom" alone would be.
  const nameOrder = orderOfParts(words, languages, of);
  if (nameOrder !== "") {
    what.delete("given");
    what.delete("surname");
    what.set("name", 1);
  }
  return {
    whose: loudestWhose(whose),
    what: loudestWhat(what),
    slot: which.size === 1 ? ([...which][0] ?? "") : specificSlot(which),
    order: nameOrder,
    known,
    words: words.length,
  };
}

/** Of "mother 1" the number counts; of "mother or father" neither does. */
function specificSlot(which: ReadonlySet<string>): string {
  const numbers = [...which].filter((slot) => /^\d$/.test(slot));
  return numbers.length === 1 ? (numbers[0] ?? "") : "";
}

/** In which order a title names both parts of a name, each with words of its own; empty where it doesn't. */
function orderOfParts(
  words: readonly string[],
  languages: Languages,
  of: Lexicon,
): TitleReading["order"] {
  const parts: ("given" | "family" | "either")[] = [];
  for (let at = 0; at < words.length;) {
    const found = lookUp(words, at, { of });
    at += found?.words ?? 1;
    if (found === undefined) continue;
    const weights = weighSenses(found.senses, found.sureness, languages);
    const given = (weights.get("given") ?? 0) > 0.5;
    const family = (weights.get("surname") ?? 0) > 0.5;
    const name = (weights.get("name") ?? 0) > 0.5;
    if (given && !family && !name) parts.push("given");
    else if (family && !given && !name) parts.push("family");
    else if (given || family || name) {
      const phrase =
        found.words > 1
          ? orderOfParts(
              words.slice(at - found.words, at).flatMap((word) => [word, ""]),
              languages,
              of,
            )
          : "";
      if (phrase !== "") return phrase;
      parts.push("either");
    }
  }
  const given = parts.indexOf("given");
  const family = parts.indexOf("family");
  const either = parts.indexOf("either");
  if (given >= 0 && family >= 0) return given < family ? "given first" : "family first";
  if (given >= 0 && either >= 0) return given < either ? "given first" : "family first";
  if (family >= 0 && either >= 0) return family < either ? "family first" : "given first";
  return "";
}

/** The weight of each concept that a word can mean, by the languages that the sheet is probably in. */
function weighSenses(
  senses: readonly Sense[],
  sureness: number,
  languages: Languages,
): Map<Concept, number> {
  const weights = new Map<Concept, number>();
  const likely = (language: string): number => languages.get(language) ?? 0;
  const most = Math.max(...senses.map(({ language }) => likely(language)));
  for (const { concept, language, weak } of senses) {
    const share = most === 0 ? 1 : Math.max(UNLIKELY_LANGUAGE, likely(language) / most);
    // A word of a language that nothing else in the sheet is in is probably another word.
    const foreign =
      languages.size === 0 || senses.some((sense) => sense.language === "en")
        ? 1
        : Math.max(FOREIGN, Math.min(1, most * 1.5));
    const weight = sureness * share * foreign * (weak ? WEAK : 1);
    weights.set(concept, Math.max(weights.get(concept) ?? 0, weight));
  }
  return weights;
}

/** A parent's of a student is a parent's; a child's teacher is a teacher. */
function loudestWhose(whose: ReadonlyMap<Whose, number>): Map<Whose, number> {
  for (const loud of ["other", "staff", "emergency", "guardian", "student", "household"] as const) {
    const weight = whose.get(loud) ?? 0;
    if (weight > 0.4) return new Map([[loud, weight]]);
  }
  return new Map(whose);
}

function loudestWhat(what: ReadonlyMap<Concept, number>): Map<Concept, number> {
  const heard = new Map<Concept, number>();
  let louder = false;
  for (const tier of LOUDNESS) {
    let loudest = 0;
    for (const concept of tier) {
      const weight = what.get(concept) ?? 0;
      if (weight === 0) continue;
      heard.set(concept, weight * (louder ? SECOND : 1));
      loudest = Math.max(loudest, weight);
    }
    if (loudest > 0.6) louder = true;
  }
  return heard;
}
