import { DrizzleQueryError } from "drizzle-orm";
import { DatabaseError } from "pg";

/** How many causes below each other are told, and how many lines of where it happened. */
const DEEPEST = 4;
const LINES = 12;

/**
 * A failure as it may stand in the log: what kind it is, its causes and where it happened. Never what people have written:
 * no parameters of queries, no values that the database repeats, no addresses.
 */
export function describeFailure(failure: unknown): string {
  const told: string[] = [];
  let at = failure;
  for (let depth = 0; at !== undefined && at !== null && depth < DEEPEST; depth++) {
    told.push(headOf(at));
    at = at instanceof Error ? at.cause : undefined;
  }
  const where = failure instanceof Error ? placesIn(failure.stack ?? "") : [];
  return [told.join(" < "), ...where].join("\n");
}

function headOf(failure: unknown): string {
  if (failure instanceof DrizzleQueryError)
    return `a query failed: ${failure.query.replace(/\s+/g, " ").slice(0, 120)}`;
  if (failure instanceof DatabaseError)
    return `database error ${failure.code ?? "without a code"}: ${withoutValues(failure.message)}${failure.constraint === undefined ? "" : ` (${failure.constraint})`}`;
  if (failure instanceof Error) {
    const code = (failure as NodeJS.ErrnoException).code;
    return `${failure.name}${code === undefined ? "" : ` ${code}`}: ${withoutValues(failure.message)}`;
  }
  return withoutValues(String(failure));
}

/** The lines of a stack that say where, without its message. */
function placesIn(stack: string): string[] {
  return stack
    .split("\n")
    .filter((line) => /^ {4}at /.test(line))
    .slice(0, LINES);
}

function withoutValues(message: string): string {
  return (message.split(/\nparams:/)[0] ?? "")
    .slice(0, 300)
    .replace(/\s+/g, " ")
    .replace(/"[^"]*"/g, '"…"')
    .replace(/\S+@\S+/g, "…@…");
}
