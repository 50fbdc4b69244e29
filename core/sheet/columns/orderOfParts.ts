import { lookUp, type Found, type Lexicon } from "../lexicon/lexicon";
import { weighSenses } from "./weighSenses";
import type { TitleReading, Languages } from "./titleReading";

/** In which order a title names both parts of a name, each with words of its own; empty where it doesn't. */
export function orderOfParts(
  words: readonly string[],
  languages: Languages,
  of: Lexicon,
): TitleReading["order"] {
  const parts: NamePart[] = [];
  for (let at = 0; at < words.length;) {
    const found = lookUp(words, at, { of });
    const from = at;
    at += found?.words ?? 1;
    const part = found === undefined ? undefined : namePart(found, languages);
    if (part === undefined) continue;
    if (part === "either" && at - from > 1) {
      // A phrase that means a whole name can name both parts itself.
      const apart = words.slice(from, at).flatMap((word) => [word, ""]);
      const phrase = orderOfParts(apart, languages, of);
      if (phrase !== "") return phrase;
    }
    parts.push(part);
  }
  return orderIn(parts);
}

/** A part of a name that a word stands for; `either` where it can be a whole name or any part. */
type NamePart = "given" | "family" | "either";

function namePart({ senses, sureness }: Found, languages: Languages): NamePart | undefined {
  const weights = weighSenses(senses, sureness, languages);
  const [given, family, name] = (["given", "surname", "name"] as const).map(
    (concept) => (weights.get(concept) ?? 0) > 0.5,
  );
  if (given === true && family !== true && name !== true) return "given";
  if (family === true && given !== true && name !== true) return "family";
  return given === true || family === true || name === true ? "either" : undefined;
}

function orderIn(parts: readonly NamePart[]): TitleReading["order"] {
  const given = parts.indexOf("given");
  const family = parts.indexOf("family");
  const either = parts.indexOf("either");
  if (given >= 0 && family >= 0) return given < family ? "given first" : "family first";
  if (given >= 0 && either >= 0) return given < either ? "given first" : "family first";
  if (family >= 0 && either >= 0) return family < either ? "family first" : "given first";
  return "";
}
