import { fold } from "../text/fold";
import { toAscii } from "./toAscii";

const NUMBER_WORDS: ReadonlyMap<string, string> = new Map(
  ["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"].map(
    (word, at) => [word, String(at + 1)],
  ),
);
const FILLERS = new Set(["and", "of", "the", "for", "in", "a", "an"]);
const LONGEST = 14;

/** Reduces a text to the letters and digits that a list address may hold, with nothing between them. */
export function squash(text: string): string {
  return toAscii(text).replace(/ /g, "");
}

/** The words of a name that count: folded, number words as digits, fillers left out unless there is nothing else. */
function wordsOf(name: string): string[] {
  const all = toAscii(name)
    .split(" ")
    .filter((word) => word !== "");
  const kept = all
    .filter((word) => !FILLERS.has(word))
    .map((word) => NUMBER_WORDS.get(word) ?? word);
  return kept.length > 0 ? kept : all;
}

/** A short form for the name of a class, team or site: number words as digits, fillers left out, at most 14 signs. */
export function proposeShortForm(name: string): string {
  const words = wordsOf(name);
  const whole = words.join("");
  if (whole.length <= LONGEST) return whole;
  const digits = words.filter((word) => /^\d+$/.test(word)).join("");
  const [first = "", ...others] = words.filter((word) => !/^\d+$/.test(word));
  return (first.slice(0, 10) + others.map((word) => word.slice(0, 1)).join("") + digits).slice(
    0,
    LONGEST,
  );
}

/**
 * Short forms for many names, all distinct, whatever their order: the shortest that tells them apart, else a number behind.
 *
 * @param kept short forms that the house has chosen, by folded name; they stay as they are
 */
export function proposeShortForms(
  names: readonly string[],
  kept: ReadonlyMap<string, string>,
): Map<string, string> {
  const found = new Map<string, string>();
  const used = new Set(kept.values());
  // Folding takes away marks that some scripts need to be written in Latin letters, so each name is kept as it stands, too.
  const written = new Map([...names].sort().map((name) => [fold(name), name]));
  const open = [...written.keys()].filter((name) => name !== "" && !kept.has(name)).sort();
  const shorts = new Map(open.map((name) => [name, proposeShortForm(written.get(name) ?? name)]));
  const count = new Map<string, number>();
  for (const short of shorts.values()) count.set(short, (count.get(short) ?? 0) + 1);
  for (const [name, short] of shorts) {
    const whole = squash(written.get(name) ?? name).slice(0, 2 * LONGEST);
    const choices = count.get(short) === 1 ? [short] : [whole, short];
    let choice = choices.find((candidate) => !used.has(candidate)) ?? short;
    for (let turn = 2; used.has(choice); turn++) choice = `${short}${turn}`;
    used.add(choice);
    found.set(name, choice);
  }
  return found;
}

/** A short code for a site: the initials of its name, in capitals; two letters of a single word. */
export function proposeSiteCode(name: string): string {
  const words = fold(name)
    .split(" ")
    .filter((word) => word !== "");
  const letters =
    words.length > 1 ? words.map((word) => word[0] ?? "").join("") : (words[0] ?? "").slice(0, 2);
  return squash(letters).toUpperCase().slice(0, 4);
}

/** The first letters of the words of a name; digits stay whole: `Juggling Two` becomes `j2`. */
export function initials(name: string): string {
  return wordsOf(name)
    .map((word) => (/^\d+$/.test(word) ? word : word.slice(0, 1)))
    .join("");
}
