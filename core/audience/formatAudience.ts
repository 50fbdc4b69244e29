import type { Audience, Condition, Spot } from "./audience";

/** How tightly each form binds; a looser one inside a tighter one needs brackets. */
const TIGHTNESS: Record<Audience["op"], number> = {
  except: 0,
  union: 1,
  both: 2,
  guardians: 3,
  group: 3,
  person: 3,
};
const JOINS = { union: "+", both: "&", except: "except" } as const;

/** The text of an audience, as `parseAudience` reads it. */
export function formatAudience(audience: Audience): string {
  switch (audience.op) {
    case "person":
      return `"${audience.name}"${audience.hint === "" ? "" : ` (${audience.hint})`}`;
    case "guardians":
      return `guardians of ${audience.of.op === "group" && audience.of.who === "students" ? formatAudience(audience.of) : `(${formatAudience(audience.of)})`}`;
    case "group":
      return [
        audience.who,
        ...audience.spots.map(formatPlace),
        ...(audience.where === undefined ? [] : ["where", formatCondition(audience.where)]),
      ].join(" ");
    default:
      return `${inside(audience.left, TIGHTNESS[audience.op])} ${JOINS[audience.op]} ${inside(audience.right, TIGHTNESS[audience.op] + 1)}`;
  }
}

function inside(audience: Audience, tightness: number): string {
  return TIGHTNESS[audience.op] < tightness
    ? `(${formatAudience(audience)})`
    : formatAudience(audience);
}

function formatPlace({ kind, name }: Spot): string {
  if (name === undefined) return `in this ${kind ?? "class"}`;
  if (kind === "level" || kind === "season") return `of ${kind} ${formatValue(name)}`;
  return `${kind === "site" ? "at" : "in"} ${kind === undefined ? "" : `${kind} `}"${name}"`;
}

/** The text of a condition. */
export function formatCondition(condition: Condition): string {
  if (condition.op === "test")
    return `${formatColumn(condition.column)} ${condition.comparison} ${condition.values.map(formatValue).join(", ")}`;
  return `${formatCondition(condition.left)} ${condition.op} ${formatCondition(condition.right)}`;
}

/** Words of the language that a column or value may not be mistaken for. */
const WORDS = new Set([
  "and",
  "or",
  "except",
  "in",
  "of",
  "at",
  "where",
  "is",
  "not",
  "one",
  "contains",
  "such",
  "that",
  "this",
]);

function formatColumn(text: string): string {
  return /^[\p{L}\p{N}_.-]+$/u.test(text) && !WORDS.has(text.toLowerCase()) ? text : `"${text}"`;
}

function formatValue(text: string): string {
  return /^[\p{N}][\p{L}\p{N}_.-]*$/u.test(text) ? text : `"${text}"`;
}
