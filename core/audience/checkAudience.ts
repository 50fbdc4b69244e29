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
        sentence: `A class has no "${column}"; it has name, site and coach.`,
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
          sentence: `Put ${name} in quotes, for it holds a word that has a meaning here.`,
          proposal: `"${name}"`,
        };
    }
  }
  return undefined;
}

function checkSpot(spot: Spot, words: HouseWords, allowsThis: boolean): AudienceFault[] {
  const fault = (sentence: string, proposal?: string): AudienceFault[] => [
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
      : fault(
          `"this ${spot.kind ?? "class"}" has a meaning in a recipe only. Name the ${spot.kind ?? "class"} here.`,
        );
  const { kind, name } = spot;
  if (kind === "season")
    return fold(name) === fold(words.season)
      ? []
      : fault(
          `The season ${name} is not the current one. A list holds people of ${words.season} only.`,
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
    `No ${kind ?? "class, team, committee or site"} is called "${name}"${near === undefined ? "" : `; "${near}" is near`}.`,
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
        sentence: `No sheet has a column "${column}" that is read${near === undefined ? "" : `; "${near}" is near`}. Columns get a name on Sources.`,
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
        sentence: `"${values[0] ?? ""}" is a word, and ${comparison} compares numbers. Use is, is not or is one of.`,
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
          sentence: `${found.name} is a word for some here, such as "${word}", and ${comparison} compares numbers: they would never belong.`,
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
        sentence: `Nobody here is called "${name}"${near === undefined ? "" : `; "${near.name}" is near`}.`,
        proposal: near === undefined ? undefined : `"${near.name}"`,
      },
    ];
  }
  if (hint === "" && found.length > 1)
    return [
      {
        at,
        length,
        sentence: `${found.length} people are called "${name}". Say which by number or address.`,
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
