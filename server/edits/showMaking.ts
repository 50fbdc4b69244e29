import type { getMaking } from "@amigo/contract/edits";
import { BOUND_RULES, boundKey, boundOf, type HouseRules } from "@amigo/core/posting/houseRules";
import { PRESETS } from "@amigo/core/posting/presets";
import { LIST_KINDS, type RuleId, RULE_IDS } from "@amigo/core/posting/rules/rule";
import { staffId } from "@amigo/core/facts/subjects";
import { said } from "@amigo/language/say";
import type { Context } from "../context";
import { houseAtHand } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { loadHouse } from "../db/houseQueries";
import { listPossibleLeads } from "./queries";
import { needCurrentSeason } from "../facts/needCurrentSeason";
import { insideDomains } from "../db/insideDomains";

/** Returns what somebody needs to make or change a list: staff, presets, house rules. */
export async function showMaking(
  { db }: Context,
  { caller }: Request<typeof getMaking>,
): Promise<Answer<typeof getMaking>> {
  const current = await needCurrentSeason(db);
  const index = await houseAtHand(db, current.id);
  const house = await loadHouse(db);
  const staff = await listPossibleLeads(db);
  const presets = [
    ...Object.entries(PRESETS).map(([id, preset]) => ({ id, ...preset, own: false })),
    ...[...index.presets].map(([id, preset]) => ({ id, ...preset, own: true })),
  ];
  const bounds = LIST_KINDS.flatMap((kind) =>
    BOUND_RULES.map((rule) => [boundKey(kind, rule), boundOf(kind, rule, index.bounds)] as const),
  ).filter(([key, bound]) => {
    const widest = boundOf("guardians", ruleIn(key), NO_BOUNDS);
    return (
      key.includes(" outside") || bound.allowed !== widest.allowed || bound.usual !== widest.usual
    );
  });
  return {
    staff: staff.map(({ id, name }) => ({ id: staffId(id), name })),
    self: staffId(caller.id),
    presets: said(presets),
    bounds: Object.fromEntries(bounds),
    invariantsOff: [...index.invariantsOff],
    recipes: [...index.recipes].map(([id, { name, each, leads }]) => ({ id, name, each, leads })),
    insideDomains: await insideDomains(db),
    listDomain: house?.listDomain ?? "",
    everything: caller.role === "coordinator",
  };
}

const NO_BOUNDS: HouseRules = new Map();

function ruleIn(key: string): RuleId {
  return RULE_IDS.find((id) => key.endsWith(` ${id}`)) ?? "writers";
}
