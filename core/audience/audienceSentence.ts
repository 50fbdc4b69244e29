import { joined } from "../text/sentence";
import type { Audience, Condition, Spot, Test } from "./audience";

const WHO = { students: "students", coaches: "coaches", leads: "leads", staff: "staff" } as const;
const COMPARE: Record<Test["comparison"], string> = {
  is: "is",
  "is not": "is not",
  "<": "is below",
  "<=": "is at most",
  ">": "is above",
  ">=": "is at least",
  contains: "contains",
  "is one of": "is one of",
};

/** Reads an audience back as an English sentence: `The guardians of the students in Trapeze Two, but not Teo Bramwell.` */
export function audienceSentence(audience: Audience): string {
  const text = phrase(audience);
  return `${text.slice(0, 1).toUpperCase()}${text.slice(1)}.`;
}

function phrase(audience: Audience): string {
  switch (audience.op) {
    case "person":
      return audience.hint === "" ? audience.name : `${audience.name} (${audience.hint})`;
    case "guardians":
      return audience.of.op === "group"
        ? `the guardians of ${phrase(audience.of)}`
        : `the guardians of whoever is one of these: ${phrase(audience.of)}`;
    case "group":
      return group(audience);
    case "union":
      return joined(flatten(audience).map(phrase));
    case "both":
      return `whoever is among ${phrase(audience.left)} and also among ${phrase(audience.right)}`;
    case "except":
      return `${phrase(audience.left)}, but not ${phrase(audience.right)}`;
  }
}

function flatten(audience: Audience): Audience[] {
  return audience.op === "union"
    ? [...flatten(audience.left), ...flatten(audience.right)]
    : [audience];
}

function group({ who, spots, where }: Extract<Audience, { op: "group" }>): string {
  const places = spots
    .filter(({ kind }) => kind !== "season")
    .map((spot) => place(spot, who === "students"));
  const all = spots.length === 0 && where === undefined ? "all " : "the ";
  return `${all}${WHO[who]}${places.length === 0 ? "" : ` ${places.join(" ")}`}${where === undefined ? "" : ` whose ${conditionPhrase(where)}`}`;
}

function place({ kind, name }: Spot, ofStudents: boolean): string {
  if (name === undefined) return `${ofStudents ? "in" : "of"} this ${kind ?? "class"}`;
  if (kind === "site") return `at ${name}`;
  if (kind === "level") return `of level ${name}`;
  return `${ofStudents ? "in" : "of"} ${kind === undefined || kind === "class" ? "" : `the ${kind} `}${name}`;
}

/** A condition in words: `level is at least 4 and instrument is violin`. */
export function conditionPhrase(condition: Condition): string {
  if (condition.op === "test")
    return `${condition.column} ${COMPARE[condition.comparison]} ${joined(condition.values, "or")}`;
  return `${conditionPhrase(condition.left)} ${condition.op} ${conditionPhrase(condition.right)}`;
}
