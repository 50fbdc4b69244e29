import { tidyLine } from "../../text/tidy";
import {
  splitName,
  wholeName,
  withoutCallName,
  type NameManner,
  type PersonName,
} from "../splitName";

const HONORIFIC =
  /^(?:mr|mrs|ms|miss|mx|dr|prof|sir|herr|frau|hr|fr|mme|mlle|mm|m|sr|sra|srta|don|doña|sig|dhr|mevr|mw|pan|pani|państwo|fam|familie|family|famille|the)\.?\s+/iu;
const LONGEST = 300;
const SIGNS = /\s*(?:[&+;|\n]|\s\/\s|\/)\s*/u;
const WORDS = /\s+(?:and|und|et|y|e|og|och|en|i|a|ve|ja|sekä|oraz|u)\s+(?=\p{Lu})/u;

/** One or two words: one person. */
const PLAIN = /^\s*(?!mr|mrs|ms)[\p{L}'’-]{3,} [\p{L}'’-]{3,}\s*$|^\s*$/iu;

/**
 * Takes the people apart who stand in one cell: `Ana & Luis Vega`, `Vega, Ana and Luis`, `Ana Vega / Luis Soler`,
 * `Ana Vega, Luis Soler`. A surname that is written once is shared.
 *
 * @param hints  family names that are likely
 * @param manner how the column writes names
 * @returns the people in the order written; one without a name where the cell is empty
 */
export function splitPeople(
  written: string,
  hints: readonly string[] = [],
  manner: NameManner = {},
): PersonName[] {
  if (PLAIN.test(written)) return [splitName(written, hints, manner)];
  // What is longer than this names nobody.
  const text = withoutCallName(tidyLine(written.slice(0, LONGEST).replace(/\n/g, " & ")))
    // "Mum: Ruth Fenn" and "Ruth Fenn (mum), Halim Fenn (dad)" by the names alone.
    .replace(/(^|[&+;|,/]\s*)\p{L}{2,14}:\s*/gu, "$1")
    .replace(/\s+(?=[,;])/g, "");
  const single = (): PersonName[] => [splitName(withoutHonorific(text), hints, manner)];
  const comma = text.indexOf(",");
  const joined = comma > 0 && !isListOfPeople(text) ? text.slice(comma + 1) : text;
  const parts = partsOf(joined);
  if (parts.length < 2) {
    if (!isListOfPeople(text)) return single();
    return text
      .split(",")
      .map((part) => splitName(withoutHonorific(tidyLine(part)), hints, manner));
  }
  if (joined !== text) {
    // "Vega, Ana and Luis" share the surname; "Vega, Ana & Soler, Luis" don't.
    const again = partsOf(text);
    if (again.every((part) => part.includes(",")))
      return again.map((part) => splitName(part, hints, manner));
    const family = text.slice(0, comma).trim();
    return unlike(parts.map((part) => ({ given: withoutHonorific(part), family })));
  }
  return unlike(withSharedSurname(parts, hints, manner));
}

function partsOf(text: string): string[] {
  return text
    .split(SIGNS)
    .flatMap((part) => part.split(WORDS))
    .map(tidyLine)
    .filter((part) => /\p{L}/u.test(part));
}

/** Whether commas stand between people, each with a name of two words: not between a surname and a given name. */
function isListOfPeople(text: string): boolean {
  const parts = text.split(",").map(tidyLine);
  return (
    parts.length > 1 &&
    parts.length <= 4 &&
    !partsOf(text).some((part) => /^[^,]+,[^,]+$/.test(part) && partsOf(text).length > 1) &&
    parts.every((part) => part.split(" ").length >= 2 && /^\p{Lu}/u.test(part)) &&
    // "García López, Ana María" is one person; a list repeats a surname or has three words at most in each.
    (parts.length > 2 ||
      sharesLastWord(parts) ||
      parts.every((part) => part.split(" ").length === 2))
  );
}

function sharesLastWord(parts: readonly string[]): boolean {
  const lasts = parts.map((part) => part.split(" ").pop()?.toLowerCase());
  return new Set(lasts).size < lasts.length;
}

function withSharedSurname(
  parts: readonly string[],
  hints: readonly string[],
  manner: NameManner,
): PersonName[] {
  const words = parts.map((part) => withoutHonorific(part).split(" "));
  const people = parts.map((part) => splitName(withoutHonorific(part), hints, manner));
  const named = people.find(({ family }) => family !== "");
  return people.map((person, at) => {
    if (person.family !== "" || (words[at]?.length ?? 0) > 1) return person;
    // "Mr & Mrs Vega": the only word is the surname.
    if (HONORIFIC.test(parts[at] ?? "") || isOnlyHonorific(parts[at] ?? ""))
      return named ?? { given: "", family: withoutHonorific(parts[at] ?? "") };
    return named === undefined ? person : { given: person.given, family: named.family };
  });
}

function isOnlyHonorific(part: string): boolean {
  return HONORIFIC.test(`${part} `) && withoutHonorific(`${part} x`) === "x";
}

function withoutHonorific(text: string): string {
  return tidyLine(text).replace(HONORIFIC, "");
}

/** The people without those who are named twice. */
function unlike(people: readonly PersonName[]): PersonName[] {
  const seen = new Set<string>();
  return people.filter((person) => {
    const key = wholeName(person).toLowerCase();
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
