import * as z from "zod";
import { RULE_IDS, type RuleId } from "@amigo/core/posting/rules/rule";
import { wrong } from "./wrong";

const RuleValue = z.string().max(5000);

/** Some of the posting rules, by their ids. */
export const SOME_RULES = Object.fromEntries(
  RULE_IDS.map((id) => [id, RuleValue.optional()]),
) as Record<RuleId, z.ZodOptional<typeof RuleValue>>;

/** All posting rules of a list as they hold. */
export const RulesShape = z
  .object(Object.fromEntries(RULE_IDS.map((id) => [id, z.string()])) as Record<RuleId, z.ZodString>)
  .meta({ id: "Rules" });

export const PresetShape = z
  .object({
    name: z.string().trim().min(1, wrong("input.giveThePresetAName")).max(60),
    what: z.string().trim().max(200),
    ...SOME_RULES,
  })
  .meta({ id: "PresetValue" });
