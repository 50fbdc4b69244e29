import * as z from "zod";
import { RULE_IDS, type RuleId } from "../../posting/rules/rule";

/** Returns the shape of some posting rules, by their ids. */
export function someRules(): Record<RuleId, z.ZodOptional<z.ZodString>> {
  return Object.fromEntries(RULE_IDS.map((id) => [id, z.string().optional()])) as Record<
    RuleId,
    z.ZodOptional<z.ZodString>
  >;
}
