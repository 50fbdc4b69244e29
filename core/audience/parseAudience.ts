import type { Audience, AudienceFault, Condition } from "./audience";
import { Parser } from "./parser";

/**
 * Parses an audience text. Words are the same in small and capital letters. Names stand in quotes, or bare where they
 * hold no word of the language; a person's bare name has two words or more. `parents` and other usual words are read as
 * the groups that they mean, `all` and `the` as nothing.
 *
 * ```
 * audience  = union { "except" union }
 * union     = both { "+" both }
 * both      = term { "&" term }
 * term      = "(" audience ")" | "guardians" [ "of" guarded ] | "guardians" places [where] | "everyone" places | group | person
 * guarded   = "students" places [where] | spot places [where] | "(" audience ")"
 * group     = ( "students" | "coaches" | "leads" | "staff" ) places [where]
 * places    = { ( "in" | "of" | "at" ) spot }
 * spot      = "this" kind | [kind] "name" | ( "level" | "season" ) word
 * kind      = "class" | "team" | "committee" | "site" | "level" | "season"
 * "name"    = a name in quotes, or words without any
 * person    = "name" [ "(" number or address ")" ]
 * where     = ( "where" | "such" "that" ) condition
 * condition = tests { "or" tests }
 * tests     = test { "and" test }
 * test      = column comparison value
 * comparison= "is" | "=" | "is not" | "<>" | "<" | "<=" | ">" | ">=" | "contains" | "is one of" (values with commas)
 * ```
 *
 * @returns the audience, or the first fault with its position and, where one word is a slip away, a proposal
 */
export function parseAudience(
  text: string,
): { ok: true; audience: Audience } | { ok: false; fault: AudienceFault } {
  const parsed = Parser.run(text, (parser) => parser.audience());
  return parsed.ok ? { ok: true, audience: parsed.value } : parsed;
}

/** Parses a condition alone, as a recipe has it for the classes it is for. Empty is no condition. */
export function parseCondition(
  text: string,
): { ok: true; condition: Condition | undefined } | { ok: false; fault: AudienceFault } {
  if (text.trim() === "") return { ok: true, condition: undefined };
  const parsed = Parser.run(text, (parser) => parser.condition());
  return parsed.ok ? { ok: true, condition: parsed.value } : parsed;
}
