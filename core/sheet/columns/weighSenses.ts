import type { Concept } from "../lexicon/language";
import type { Sense } from "../lexicon/lexicon";
import type { Languages } from "./titleReading";

const WEAK = 0.55;

const UNLIKELY_LANGUAGE = 0.15;

const FOREIGN = 0.35;

/** The weight of each concept that a word can mean, by the languages that the sheet is probably in. */
export function weighSenses(
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
