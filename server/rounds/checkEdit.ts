import { checkNames } from "./checkNames";
import { readAddress } from "@amigo/core/address/readAddress";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import type { Edit } from "@amigo/core/lists/edit";
import { listKeyParts } from "@amigo/core/lists/listKey";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import { pointFault } from "@amigo/core/lists/pointFault";
import { wantedLists } from "@amigo/core/lists/wantedLists";
import { isWithin } from "@amigo/core/posting/houseRules";
import { isAmigos } from "@amigo/core/posting/presets";
import { ruleFault, wordsOf } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { checkAudience, checkCondition } from "@amigo/core/audience/checkAudience";
import { houseWords, type HouseWords } from "@amigo/core/audience/houseWords";
import { understoodAudience, understoodCondition } from "@amigo/core/lists/understood";
import { readPattern } from "@amigo/core/naming/pattern";
import { Refusal } from "../http/fault";
import type { HouseNaming } from "../membership/nameWanted";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import type { RecipeValue } from "@amigo/core/lists/recipe";

/** Refuses an edit that can't be carried out: texts that are not understood, names that no list may have. */
export function checkEdit(
  edit: Edit,
  standing: FactIndex,
  after: FactIndex,
  naming: HouseNaming,
  convention: "advises" | "binds",
): void {
  const words = houseWords(after, naming.season);
  if (edit.what === "recipe" && edit.value !== null) checkRecipe(edit.value, after, words);
  if (edit.what === "house") checkHouse(edit, standing, after);
  if (edit.what === "names") checkRenaming(edit, after);
  if (edit.what === "lists") {
    for (const list of edit.lists) checkList(list, after);
    for (const { key, points } of edit.lists)
      if (typeof points.audience === "string" && points.audience !== "")
        checkAudienceText(
          points.audience,
          after.lists.has(key) && wantedLists(after).get(key)?.recipe !== undefined,
          words,
        );
  }
  checkNames(standing, after, naming, convention);
}

/** Refuses an audience that is not understood, or that names what the house doesn't have. */
function checkAudienceText(text: string, allowsThis: boolean, words: HouseWords): void {
  const parsed = understoodAudience(text);
  const [fault] = parsed.ok
    ? checkAudience(parsed.audience, words, allowsThis).filter(
        ({ isAmbiguous }) => isAmbiguous !== true,
      )
    : [parsed.fault];
  if (fault !== undefined)
    throw new Refusal(
      422,
      "edit/audience",
      t("rounds.theAudienceIsNotRight", { sign: fault.at + 1, sentence: fault.sentence }),
      "audience",
    );
}

/** Refuses a recipe whose audience, condition, pattern or posting rules are not right. */
function checkRecipe(value: RecipeValue, after: FactIndex, words: HouseWords): void {
  checkAudienceText(value.audience, value.each !== "house", words);
  const condition = understoodCondition(value.condition);
  const [fault] = condition.ok ? checkCondition(condition.condition) : [condition.fault];
  if (fault !== undefined)
    throw new Refusal(
      422,
      "edit/condition",
      t("rounds.theConditionIsNotRight", { sign: fault.at + 1, sentence: fault.sentence }),
      "condition",
    );
  const pattern = readPattern(value.pattern);
  if (!pattern.ok) throw new Refusal(422, "edit/pattern", pattern.fault.sentence, "pattern");
  if (!isAmigos(value.preset) && !after.presets.has(value.preset))
    throw new Refusal(
      422,
      "edit/point",
      t("rounds.thereAreNoPostingRules", { preset: value.preset }),
      "preset",
    );
  for (const rule of RULE_IDS) {
    const wrong = value[rule] === undefined ? undefined : ruleFault(rule, value[rule]);
    if (wrong !== undefined) throw new Refusal(422, "edit/point", wrong, rule);
  }
}

/** Refuses other names for lists that are not there, and patterns that can't be read. */
function checkRenaming(
  { names, patterns }: Extract<Edit, { what: "names" }>,
  after: FactIndex,
): void {
  const wanted = wantedLists(after);
  const strange = Object.keys(names).find((key) => !wanted.has(key));
  if (strange !== undefined)
    throw new Refusal(
      422,
      "edit/list",
      t("rounds.thereIsNoListThat", { key: strange.slice(0, 80) }),
      "names",
    );
  for (const text of Object.values(patterns)) {
    const pattern = readPattern(text);
    if (!pattern.ok)
      throw new Refusal(
        422,
        "edit/pattern",
        t("rounds.isBroken", { title: text, broken: pattern.fault.sentence }),
        "pattern",
      );
  }
}

/** Bounds must leave something allowed, and what is usual within it; presets must be what can be, and not be taken away while something has them. */
function checkHouse(
  { bounds, presets }: Extract<Edit, { what: "house" }>,
  standing: FactIndex,
  after: FactIndex,
): void {
  for (const [key, bound] of Object.entries(bounds)) {
    const rule = RULE_IDS.find((id) => key.endsWith(` ${id}`));
    if (bound === null || rule === undefined) continue;
    const bad =
      ruleFault(rule, bound.usual) ??
      bound.allowed
        .split("|")
        .map((value) => ruleFault(rule, value))
        .find((fault) => fault !== undefined);
    if (bad !== undefined) throw new Refusal(422, "edit/bound", bad, key);
    if (!isWithin(rule, bound.usual, bound))
      throw new Refusal(
        422,
        "edit/bound",
        t("rounds.whatIsUsualMustBe", { rule: wordsOf(rule, bound.usual) }),
        key,
      );
  }
  for (const [id, preset] of Object.entries(presets)) {
    if (isAmigos(id))
      throw new Refusal(422, "edit/preset", t("rounds.thisPresetIsAmigosOwn"), "presets");
    const bad =
      preset === null
        ? undefined
        : RULE_IDS.map((rule) =>
            preset[rule] === undefined ? undefined : ruleFault(rule, preset[rule]),
          ).find((fault) => fault !== undefined);
    if (bad !== undefined) throw new Refusal(422, "edit/preset", bad, "presets");
    const user =
      preset === null && standing.presets.has(id)
        ? [...wantedLists(after).values()].find((list) => list.open && list.preset === id)
        : undefined;
    if (user !== undefined)
      throw new Refusal(
        409,
        "edit/preset",
        t("rounds.hasThesePostingRulesGive", { title: user.title }),
        "presets",
      );
  }
}

/** A list that somebody edits is one that a recipe can make, or one with an id of its own; what is said of it must be what can be. */
function checkList(
  { key, points, keep = [] }: Extract<Edit, { what: "lists" }>["lists"][number],
  after: FactIndex,
): void {
  const parts = listKeyParts(key);
  const isKnown =
    parts === undefined
      ? /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(key)
      : after.recipes.has(parts.recipe) &&
        (after.cohorts.has(parts.of) || /^(site|level):|^house$/.test(parts.of));
  if (!isKnown)
    throw new Refusal(
      422,
      "edit/list",
      t("rounds.thereIsNoListAnd", { key: key.slice(0, 80) }),
      "lists",
    );
  if (parts === undefined && !(after.lists.get(key)?.has("title") ?? false))
    throw new Refusal(422, "edit/list", t("rounds.giveTheListADisplay"), "title");
  for (const [point, value] of Object.entries(points) as [ListPoint, string | null][]) {
    const fault =
      value === null
        ? undefined
        : pointFault(point, value, {
            isStaff: (id) => after.people.get(id)?.role === "staff",
            isPreset: (id) => isAmigos(id) || after.presets.has(id),
          });
    if (fault !== undefined) throw new Refusal(422, "edit/point", fault, point);
  }
  for (const address of keep) {
    const read = readAddress(address, new Map());
    if (read.answer !== "clean" || read.address !== address)
      throw new Refusal(422, "edit/address", noAddress(address, read), "keep");
  }
}
