import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";

/** A person's name in its two parts. `family` is empty when only one name is written. */
export interface PersonName {
  given: string;
  family: string;
}

/** Words that belong to the family name behind them. */
const PARTICLES = new Set([
  "van",
  "von",
  "de",
  "der",
  "den",
  "del",
  "della",
  "di",
  "da",
  "dos",
  "du",
  "la",
  "le",
  "ter",
  "ten",
  "bin",
  "ibn",
  "al",
  "el",
  "mc",
  "mac",
  "o",
  "st",
  "zu",
  "af",
  "av",
]);

/**
 * Splits a written name: `Surname, First` at its comma; else before a family name that is known
 * from elsewhere in the row (a student's, for a guardian); else before the last word, with the
 * particles in front of it.
 *
 * @param hints family names that are likely
 */
export function splitName(written: string, hints: readonly string[] = []): PersonName {
  const text = tidyLine(written);
  const comma = text.indexOf(",");
  if (comma > 0)
    return { family: text.slice(0, comma).trim(), given: text.slice(comma + 1).trim() };
  const words = text.split(" ").filter((word) => word !== "");
  if (words.length <= 1) return { given: text, family: "" };
  for (const hint of hints) {
    const size = hint === "" ? 0 : tidyLine(hint).split(" ").length;
    if (size === 0 || size >= words.length) continue;
    if (fold(words.slice(-size).join(" ")) === fold(hint))
      return { given: words.slice(0, -size).join(" "), family: words.slice(-size).join(" ") };
  }
  let start = words.length - 1;
  while (start > 1 && PARTICLES.has((words[start - 1] ?? "").toLowerCase())) start--;
  return { given: words.slice(0, start).join(" "), family: words.slice(start).join(" ") };
}

/** The name as one text, given name first. */
export function wholeName(name: PersonName): string {
  return name.family === ""
    ? name.given
    : name.given === ""
      ? name.family
      : `${name.given} ${name.family}`;
}
