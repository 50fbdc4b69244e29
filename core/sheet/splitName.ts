import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import type { NameOrder } from "./columns/nameOrder";
import { lexicon } from "./lexicon/lexicon";

/** A person's name in its two parts. `family` is empty when only one name is written. */
export interface PersonName {
  given: string;
  family: string;
}

/** How the names of a column are written. */
export interface NameManner {
  order?: NameOrder | undefined;
  /** Whether people have two surnames as a rule. */
  twoSurnames?: boolean | undefined;
  /** Whether capitals are those of Turkish, in which "I" is that of "ı". */
  isTurkish?: boolean | undefined;
}

/** Words that belong to the family name behind them. */
const PARTICLES = new Set(
  "van von vom zum zur de der den del della delle dello degli di da das do dos du des la las le los lo ter ten te 't bin ibn ben al el mc mac o st zu af av y e i d".split(
    " ",
  ),
);

/**
 * Splits a written name: `Surname, First` at its comma; `DUPONT Marie` by its capitals; else before a family name that is
 * known from elsewhere in the row (a student's, for a guardian); else as its column writes names, with the particles in
 * front of a surname.
 *
 * @param hints  family names that are likely
 * @param manner how the column writes names; given name first where nothing is said
 */
export function splitName(
  written: string,
  hints: readonly string[] = [],
  manner: NameManner = {},
): PersonName {
  const text = tidyLine(written);
  const comma = text.indexOf(",");
  if (comma > 0) return byComma(text.split(",").map((part) => part.trim()));
  const words = text.split(" ").filter((word) => word !== "");
  if (words.length <= 1) return { given: text, family: "" };
  const capitals = byCapitals(words);
  if (capitals !== undefined) return capitals;
  for (const hint of hints) {
    const size = hint === "" ? 0 : tidyLine(hint).split(" ").length;
    if (size === 0 || size >= words.length) continue;
    if (fold(words.slice(-size).join(" ")) === fold(hint)) return cut(words, words.length - size);
    if (fold(words.slice(0, size).join(" ")) === fold(hint) && manner.order === "family first")
      return cutFamilyFirst(words, size);
  }
  return manner.order === "family first"
    ? cutFamilyFirst(words, endOfFamily(words, manner))
    : cut(words, startOfFamily(words, manner));
}

/** `Wit, Fenna`; `Wit, de, Fenna` and `Wit, Fenna de`, as the small words of Dutch surnames are put behind. */
function byComma([family = "", ...rest]: readonly string[]): PersonName {
  const small = rest.length > 1 && rest[0] !== "" && isParticles(rest[0] ?? "") ? rest[0] : "";
  const words = rest
    .slice(small === "" ? 0 : 1)
    .join(", ")
    .split(" ");
  let end = words.length;
  while (end > 1 && PARTICLES_BEHIND.has(words[end - 1] ?? "")) end--;
  const behind = words.slice(end).join(" ");
  return {
    family: [small, behind, family].filter((part) => part !== "").join(" "),
    given: words.slice(0, end).join(" "),
  };
}

/** The small words that stand behind a given name in lists sorted by surname, as they are written there. */
const PARTICLES_BEHIND = new Set("van von vom de der den het ter ten te 't op in".split(" "));

/** Where some words are in capitals, and others aren't, those are the surname. */
function byCapitals(words: readonly string[]): PersonName | undefined {
  const isCaps = words.map((word) => /^\p{Lu}[\p{Lu}'’-]+$/u.test(word));
  const areParticles = words.map(isParticle);
  const first = isCaps.indexOf(true);
  const last = isCaps.lastIndexOf(true);
  if (first < 0 || isCaps.every((caps, at) => caps || (areParticles[at] ?? false)))
    return undefined;
  if (
    isCaps.slice(first, last + 1).some((caps, at) => !caps && !(areParticles[first + at] ?? false))
  )
    return undefined;
  if (first === 0)
    return {
      family: words.slice(0, last + 1).join(" "),
      given: words.slice(last + 1).join(" "),
    };
  let start = first;
  while (start > 1 && (areParticles[start - 1] ?? false)) start--;
  if (start === 1 && (areParticles[0] ?? false)) return undefined;
  return last === words.length - 1
    ? { given: words.slice(0, start).join(" "), family: words.slice(start).join(" ") }
    : undefined;
}

function cut(words: readonly string[], at: number): PersonName {
  return { given: words.slice(0, at).join(" "), family: words.slice(at).join(" ") };
}

function cutFamilyFirst(words: readonly string[], at: number): PersonName {
  return { family: words.slice(0, at).join(" "), given: words.slice(at).join(" ") };
}

/** Where the family name starts in a name with the given name first. */
function startOfFamily(words: readonly string[], { twoSurnames }: NameManner): number {
  const particle = words.findIndex((word, at) => at > 0 && isParticle(word));
  let start = words.length - 1;
  while (start > 1 && isParticle(words[start - 1] ?? "")) start--;
  if (twoSurnames !== true || start <= 1) return start;
  // A second given name isn't a surname: "Juan Carlos Vega", but "Ana Vega Soler".
  const before = words[start - 1] ?? "";
  if (particle === start && start > 1 && isGivenName(before)) return start;
  if (start === 2 && isGivenName(before) && words.length === 3) return start;
  start--;
  while (start > 1 && isParticle(words[start - 1] ?? "")) start--;
  return start;
}

/** Where the family name ends in a name with the surname first. */
function endOfFamily(words: readonly string[], { twoSurnames }: NameManner): number {
  let end = 1;
  while (end < words.length - 1 && isParticle(words[end - 1] ?? "")) end++;
  if (twoSurnames !== true || end >= words.length - 1) return end;
  const next = words[end] ?? "";
  if (isGivenName(next) && !isParticle(next) && end === 1 && words.length === 3) return end;
  end++;
  while (end < words.length - 1 && isParticle(words[end - 1] ?? "")) end++;
  return end;
}

/** A single capital is an initial, not a particle. */
function isParticle(word: string): boolean {
  return PARTICLES.has(word.toLowerCase()) && !/^[DEIY]$/.test(word);
}

/** Whether a text is nothing but small words that stand in front of surnames. */
export function isParticles(text: string): boolean {
  return text.split(" ").every((word) => isParticle(word.toLowerCase()));
}

function isGivenName(word: string): boolean {
  return lexicon().given.has(fold(word));
}

const LOWER = new Set(
  "van von vom zum zur de der den del della delle di da das do dos ter ten zu af av y e i la las los".split(
    " ",
  ),
);

/** An article alone begins a surname: *Le Gall*, *La Rosa*; behind *de* it is small. */
const ARTICLES = new Set(["la", "las", "los"]);

/** A name that is written in capitals, as one would write it: `DE LA CRUZ` is `de la Cruz`. Any other stays as it is. */
export function withoutCapitals(
  name: PersonName,
  { isTurkish = false }: NameManner = {},
): PersonName {
  return { given: lowered(name.given, isTurkish), family: lowered(name.family, isTurkish) };
}

function lowered(text: string, isTurkish: boolean): string {
  if (text.length < 3 || text !== text.toUpperCase() || text === text.toLowerCase()) return text;
  // "İ" is a letter of Turkish, whose "I" is written "ı".
  return (isTurkish || text.includes("\u0130") ? text.toLocaleLowerCase("tr") : text.toLowerCase())
    .split(" ")
    .map((word, at, all) =>
      LOWER.has(word) && !(ARTICLES.has(word) && all[at - 1] !== "de")
        ? word
        : word
            .replace(
              /(^|[-'’.])(\p{L})/gu,
              (_, sign: string, letter: string) => sign + letter.toUpperCase(),
            )
            .replace(/^Mc(\p{L})(?=\p{L}{2})/u, (_, letter: string) => `Mc${letter.toUpperCase()}`),
    )
    .join(" ");
}

const CALL_NAME = /\s*(?:\([^()]{1,40}\)|["“”„«»][^"“”„«»]{1,40}["“”„«»])\s*/gu;

/** `Charlotte "Lottie"` and `Oscar (Oz)` by the name alone; what stands in brackets is a name to call by, or a remark. */
export function withoutCallName(text: string): string {
  // A formula is no name, and stays as it is.
  if (!/^[\p{L}"“„«(]/u.test(text) || !/["“„«(]/.test(text)) return text;
  const bare = tidyLine(text.replace(CALL_NAME, " "));
  return bare === "" ? text : bare;
}

/** The name as one text, given name first. */
export function wholeName(name: PersonName): string {
  return name.family === ""
    ? name.given
    : name.given === ""
      ? name.family
      : `${name.given} ${name.family}`;
}
