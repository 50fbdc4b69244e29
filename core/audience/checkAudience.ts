import { message, type Message } from "@amigo/language/message";
import { fold } from "../text/fold";
import { isOneSlip } from "../text/slip";
import {
  partsOf,
  testsOf,
  type Audience,
  type AudienceFault,
  type Condition,
  type Spot,
  type Test,
} from "./audience";
import type { HouseWords } from "./houseWords";
import { numberIn } from "./holds";

const ORDERED = new Set(["<", "<=", ">", ">="]);

/**
 * Holds an audience against the house: names that nobody has, levels that are words where a number is compared,
 * columns that no sheet has, people of one name, seasons that are over.
 *
 * @param allowsThis whether "this class" has a meaning here: in a recipe
 * @param text the text itself, for names without quotes that hold words of the language
 */
export function checkAudience(
  audience: Audience,
  words: HouseWords,
  allowsThis: boolean,
  text = "",
): AudienceFault[] {
  const faults: AudienceFault[] = [];
  for (const part of partsOf(audience)) {
    if (part.op === "person") faults.push(...checkPerson(part, words));
    if (part.op !== "group") continue;
    const cut = cutName(part.spots, words, text);
    if (cut !== undefined) faults.push(cut);
    else for (const spot of part.spots) faults.push(...checkSpot(spot, words, allowsThis));
    for (const test of testsOf(part.where)) faults.push(...checkTest(test, words));
  }
  return faults.sort((a, b) => a.at - b.at);
}

const COHORT_COLUMNS = ["name", "site", "coach"];

/** Holds the condition of a recipe against what is known of classes: name, site and coach. */
export function checkCondition(condition: Condition | undefined): AudienceFault[] {
  return [...testsOf(condition)].flatMap(({ at, column }) => {
    if (COHORT_COLUMNS.includes(fold(column))) return [];
    return [
      {
        at,
        length: column.length,
        sentence: message("audience.aClassHasNoIt", { column }),
        proposal: nearest(column, COHORT_COLUMNS),
      },
    ];
  });
}

/** A name holds fewer words of the language than this. */
const MOST_CUTS = 5;

/** A name without quotes that holds words of the language, such as Friends of the Ring, and was cut there. */
function cutName(
  spots: readonly Spot[],
  words: HouseWords,
  text: string,
): AudienceFault | undefined {
  if (spots.length < 2) return undefined;
  const known = new Map(
    [...words.cohorts.map(({ name }) => name), ...words.sites].map((name) => [fold(name), name]),
  );
  for (const [at, first] of spots.entries()) {
    if (first.until === undefined) continue;
    for (const last of spots.slice(at + 1, at + MOST_CUTS).reverse()) {
      if (last.until === undefined) continue;
      const name = known.get(fold(text.slice(first.at, last.until)));
      if (name !== undefined)
        return {
          at: first.at,
          length: last.until - first.at,
          sentence: message("audience.putInQuotesForIt", { name }),
          proposal: `"${name}"`,
        };
    }
  }
  return undefined;
}

function checkSpot(spot: Spot, words: HouseWords, allowsThis: boolean): AudienceFault[] {
  const fault = (sentence: Message, proposal?: string): AudienceFault[] => [
    {
      at: spot.at,
      length: spot.until === undefined ? (spot.name?.length ?? 4) + 2 : spot.until - spot.at,
      sentence,
      proposal,
    },
  ];
  if (spot.name === undefined)
    return allowsThis || spot.kind === "season"
      ? []
      : fault(message("audience.thisHasAMeaningIn", { kind: spot.kind ?? "class" }));
  const { kind, name } = spot;
  if (kind === "season")
    return fold(name) === fold(words.season)
      ? []
      : fault(
          message("audience.theSeasonIsNotThe", { name, season: words.season }),
          `season ${words.season}`,
        );
  const known =
    kind === "site"
      ? words.sites
      : kind === "level"
        ? words.levels
        : kind === undefined
          ? [...words.cohorts.map((cohort) => cohort.name), ...words.sites]
          : words.cohorts.filter((cohort) => cohort.kind === kind).map((cohort) => cohort.name);
  if (known.some((other) => fold(other) === fold(name))) return [];
  const near = nearest(name, known);
  return fault(
    message("audience.noIsCalled", { kind: kind ?? "any", name, near }),
    near !== undefined
      ? `"${near}"`
      : spot.until !== undefined && isOneSlip("students", fold(name))
        ? "students"
        : undefined,
  );
}

function checkTest({ at, column, comparison, values }: Test, words: HouseWords): AudienceFault[] {
  const found = words.columns.find(({ name }) => fold(name) === fold(column));
  if (found === undefined) {
    const near = nearest(
      column,
      words.columns.map(({ name }) => name),
    );
    return [
      {
        at,
        length: column.length,
        sentence: message("audience.noSheetHasAColumn", { column, near }),
        proposal: near,
      },
    ];
  }
  if (!ORDERED.has(comparison)) return [];
  if (numberIn(values[0] ?? "") === undefined)
    return [
      {
        at,
        length: column.length,
        sentence: message("audience.isAWordAndCompares", { value: values[0] ?? "", comparison }),
        proposal: undefined,
      },
    ];
  const word = found.values.find((value) => numberIn(value) === undefined);
  return word === undefined
    ? []
    : [
        {
          at,
          length: column.length,
          sentence: message("audience.isAWordForSome", { name: found.name, word, comparison }),
          proposal: undefined,
        },
      ];
}

function checkPerson(
  { at, name, hint }: { at: number; name: string; hint: string },
  words: HouseWords,
): AudienceFault[] {
  const found = words.people(name);
  const length = name.length + 2;
  if (found.length === 0) {
    const near = words
      .peopleLike(name.split(" ")[0] ?? "")
      .find((person) => isOneSlip(fold(person.name), fold(name)));
    return [
      {
        at,
        length,
        sentence: message("audience.nobodyHereIsCalled", { name, near: near?.name }),
        proposal: near === undefined ? undefined : `"${near.name}"`,
      },
    ];
  }
  if (hint === "" && found.length > 1)
    return [
      {
        at,
        length,
        isAmbiguous: true,
        sentence: message("audience.peopleAreCalledSayWhich", { count: found.length, name }),
        proposal: `"${name}" (${found[0]?.hint ?? ""})`,
      },
    ];
  return [];
}

function nearest(text: string, known: readonly string[]): string | undefined {
  const wanted = fold(text);
  return (
    known.find((other) => isOneSlip(fold(other), wanted)) ??
    known.find((other) => wanted.length >= 3 && fold(other).startsWith(wanted))
  );
}
