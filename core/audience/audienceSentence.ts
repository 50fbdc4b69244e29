import { each, message, type Message } from "@amigo/language/message";
import type { Audience, Condition, Spot, Test } from "./audience";

/** The comparisons by the names that their text chooses by. */
const COMPARED: Readonly<Record<Test["comparison"], string>> = {
  is: "is",
  "is not": "isNot",
  "<": "below",
  "<=": "atMost",
  ">": "above",
  ">=": "atLeast",
  contains: "contains",
  "is one of": "isOneOf",
};

/** Reads an audience back as a sentence: `The guardians of the students in Trapeze Two, but not Teo Bramwell.` */
export function audienceSentence(audience: Audience): Message {
  return { asSentence: phrase(audience) };
}

function phrase(audience: Audience): Message {
  switch (audience.op) {
    case "person":
      return message("audience.person", { name: audience.name, hint: audience.hint });
    case "guardians":
      return audience.of.op === "group"
        ? message("audience.guardiansOf", { of: phrase(audience.of) })
        : message("audience.guardiansOfAny", { of: phrase(audience.of) });
    case "group":
      return group(audience);
    case "union":
      return each(flatten(audience).map(phrase));
    case "both":
      return message("audience.both", {
        left: phrase(audience.left),
        right: phrase(audience.right),
      });
    case "except":
      return message("audience.except", {
        left: phrase(audience.left),
        right: phrase(audience.right),
      });
  }
}

function flatten(audience: Audience): Audience[] {
  return audience.op === "union"
    ? [...flatten(audience.left), ...flatten(audience.right)]
    : [audience];
}

function group({ who, spots, where }: Extract<Audience, { op: "group" }>): Message {
  const places = spots.filter(({ kind }) => kind !== "season");
  return message("audience.group", {
    all: spots.length === 0 && where === undefined,
    who,
    places: places.length,
    at: each(
      places.map((spot) => place(spot, who === "students")),
      "sentences",
    ),
    has: where !== undefined,
    where: where === undefined ? "" : conditionPhrase(where),
  });
}

function place({ kind, name }: Spot, ofStudents: boolean): Message {
  return name === undefined
    ? message("audience.thisPlace", { kind: kind ?? "class", ofStudents })
    : message("audience.place", { kind: kind ?? "class", name, ofStudents });
}

/** A condition in words: `level is at least 4 and instrument is violin`. */
export function conditionPhrase(condition: Condition): Message {
  if (condition.op === "test")
    return message("audience.test", {
      column: condition.column,
      comparison: COMPARED[condition.comparison],
      values: each(condition.values, "or"),
    });
  return message("audience.conditions", {
    left: conditionPhrase(condition.left),
    op: condition.op,
    right: conditionPhrase(condition.right),
  });
}
