import type { Audience, Comparison, Condition, Spot, SpotKind, Test } from "./audience";
import { formatAudience } from "./formatAudience";

/** Whom one line of choices can mean. */
export const CHOOSABLE = ["guardians", "students", "coaches", "leads", "staff", "person"] as const;
export type Choosable = (typeof CHOOSABLE)[number];

/** One line of choices: who, of which place, with which condition; or one person by name. */
export interface ChosenGroup {
  who: Choosable;
  /** The place; undefined for the whole house, with `name` undefined for "this class". */
  place: { kind: SpotKind | undefined; name: string | undefined } | undefined;
  condition: { column: string; comparison: Comparison; value: string } | undefined;
  /** The person's name and what tells them apart; empty for a group. */
  person: { name: string; hint: string };
}

/** An audience as lines of choices: all of these, except those. */
export interface Choices {
  groups: ChosenGroup[];
  except: ChosenGroup[];
}

/** Returns an audience as lines of choices; undefined where it says more than these can. */
export function choicesOf(audience: Audience): Choices | undefined {
  const [kept, gone] =
    audience.op === "except" ? [audience.left, audience.right] : [audience, undefined];
  const groups = linesOf(kept);
  const except = gone === undefined ? [] : linesOf(gone);
  return groups === undefined || except === undefined ? undefined : { groups, except };
}

function linesOf(audience: Audience): ChosenGroup[] | undefined {
  if (audience.op === "union") {
    const [left, right] = [linesOf(audience.left), linesOf(audience.right)];
    return left === undefined || right === undefined ? undefined : [...left, ...right];
  }
  const line = lineOf(audience);
  return line === undefined ? undefined : [line];
}

function lineOf(audience: Audience): ChosenGroup | undefined {
  if (audience.op === "person")
    return { ...NEW_GROUP, who: "person", person: { name: audience.name, hint: audience.hint } };
  const group = audience.op === "guardians" ? audience.of : audience;
  if (group.op !== "group" || (audience.op === "guardians" && group.who !== "students"))
    return undefined;
  const [spot, ...more] = group.spots;
  const condition = conditionOf(group.where);
  if (more.length > 0 || condition === null) return undefined;
  return {
    who: audience.op === "guardians" ? "guardians" : group.who,
    place: spot === undefined ? undefined : { kind: spot.kind, name: spot.name },
    condition,
    person: NEW_GROUP.person,
  };
}

/** A condition of one comparison with one value; null for any other. */
function conditionOf(where: Condition | undefined): ChosenGroup["condition"] | null {
  if (where === undefined) return undefined;
  const [value, ...more] = where.op === "test" ? where.values : [];
  return where.op !== "test" || value === undefined || more.length > 0
    ? null
    : { column: where.column, comparison: where.comparison, value };
}

/** The line with which choosing begins. */
export const NEW_GROUP: ChosenGroup = {
  who: "guardians",
  place: undefined,
  condition: undefined,
  person: { name: "", hint: "" },
};

/** Returns the audience text that lines of choices mean; empty where nothing is chosen. Persons without a name are left out. */
export function textOfChoices({ groups, except }: Choices): string {
  const kept = unionOf(groups);
  if (kept === undefined) return "";
  const gone = unionOf(except);
  return formatAudience(gone === undefined ? kept : { op: "except", left: kept, right: gone });
}

function unionOf(groups: readonly ChosenGroup[]): Audience | undefined {
  const parts = groups
    .filter(({ who, person }) => who !== "person" || person.name.trim() !== "")
    .map(audienceOf);
  const [first, ...more] = parts;
  return first === undefined
    ? undefined
    : more.reduce((left, right): Audience => ({ op: "union", left, right }), first);
}

function audienceOf({ who, place, condition, person }: ChosenGroup): Audience {
  if (who === "person") return { op: "person", at: 0, ...person };
  const spots: Spot[] = place === undefined ? [] : [{ at: 0, ...place }];
  const where: Test | undefined =
    condition === undefined || condition.value.trim() === ""
      ? undefined
      : {
          op: "test",
          at: 0,
          column: condition.column,
          comparison: condition.comparison,
          values: [condition.value],
        };
  return who === "guardians"
    ? { op: "guardians", at: 0, of: { op: "group", at: 0, who: "students", spots, where } }
    : { op: "group", at: 0, who, spots, where };
}
