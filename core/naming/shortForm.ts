import { fold } from "../text/fold";

const NUMBER_WORDS: Record<string, string> = { one: "1", two: "2", three: "3", four: "4", five: "5", six: "6", seven: "7", eight: "8", nine: "9", ten: "10" };
const FILLERS = new Set(["and", "of", "the", "for", "in", "a", "an"]);

/**
 * Folds a text to the letters and digits that a list address may hold, with nothing between them.
 * Letters of other scripts are spelt by their code points, so that the outcome is never empty or equal by accident.
 */
export function squash(text: string): string {
  return [...fold(text).replace(/ /g, "")].map((sign) => (/[a-z0-9]/.test(sign) ? sign : (sign.codePointAt(0) ?? 0).toString(36))).join("");
}

/** A short form for the name of a class, team or site: number words as digits, fillers left out, at most 14 signs. */
export function proposeShortForm(name: string): string {
  const words = fold(name).split(" ").filter((word) => !FILLERS.has(word)).map((word) => NUMBER_WORDS[word] ?? word);
  const whole = squash(words.join(""));
  if (whole.length <= 14) return whole;
  const digits = words.filter((word) => /^\d+$/.test(word)).join("");
  const [first = "", ...others] = words.filter((word) => !/^\d+$/.test(word));
  return (squash(first).slice(0, 10) + others.map((word) => squash(word).slice(0, 1)).join("") + digits).slice(0, 14);
}

/** A short code for a site: the initials of its name, in capitals; two letters of a single word. */
export function proposeSiteCode(name: string): string {
  const words = fold(name).split(" ").filter((word) => word !== "");
  const letters = words.length > 1 ? words.map((word) => word[0] ?? "").join("") : (words[0] ?? "").slice(0, 2);
  return squash(letters).toUpperCase().slice(0, 4);
}
