import { checkNames } from "./checkNames";
import { readAddress } from "@amigo/core/address/readAddress";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import type { Edit } from "@amigo/core/lists/edit";
import { listKeyParts } from "@amigo/core/lists/listKey";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import { pointFault } from "@amigo/core/lists/pointFault";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { isWithin } from "@amigo/core/posting/houseRules";
import { isAmigos } from "@amigo/core/posting/presets";
import { ruleFault, wordsOf } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { checkAudience, checkCondition } from "@amigo/core/audience/checkAudience";
import { houseWords, type HouseWords } from "@amigo/core/audience/houseWords";
import { understoodAudience, understoodCondition } from "@amigo/core/lists/understood";
import { readPattern } from "@amigo/core/naming/pattern";
import { refused, type Refused } from "../refused";
import type { HouseNaming } from "../membership/nameWanted";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import type { RecipeValue } from "@amigo/core/lists/recipe";

/** Returns why an edit can't be carried out: a text that is not understood, a name that no list may have. */
export function checkEdit(
  edit: Edit,
  standing: FactIndex,
  after: FactIndex,
  naming: HouseNaming,
  convention: "advises" | "binds",
): Refused | undefined {
  const words = houseWords(after, naming.season);
  return checkWhat(edit, standing, after, words) ?? checkNames(standing, after, naming, convention);
}

function checkWhat(
  edit: Edit,
  standing: FactIndex,
  after: FactIndex,
  words: HouseWords,
): Refused | undefined {
  switch (edit.what) {
    case "recipe":
      return edit.value === null ? undefined : checkRecipe(edit.value, after, words);
    case "house":
      return checkHouse(edit, standing, after);
    case "names":
      return checkRenaming(edit, after);
    case "lists":
      return checkLists(edit, after, words);
    case "staff":
      return undefined;
  }
}

function checkLists(
  { lists }: Extract<Edit, { what: "lists" }>,
  after: FactIndex,
  words: HouseWords,
): Refused | undefined {
  for (const list of lists) {
    const wrong = checkList(list, after);
    if (wrong !== undefined) return wrong;
  }
  for (const { key, points } of lists) {
    if (typeof points.audience !== "string" || points.audience === "") continue;
    const isOfRecipe = after.lists.has(key) && wantedLists(after).get(key)?.recipe !== undefined;
    const wrong = checkAudienceText(points.audience, isOfRecipe, words);
    if (wrong !== undefined) return wrong;
  }
  return undefined;
}

/** Refuses an audience that is not understood, or that names what the house doesn't have. */
function checkAudienceText(
  text: string,
  allowsThis: boolean,
  words: HouseWords,
): Refused | undefined {
  const parsed = understoodAudience(text);
  const [fault] = parsed.ok
    ? checkAudience(parsed.audience, words, allowsThis).filter(
        ({ isAmbiguous }) => isAmbiguous !== true,
      )
    : [parsed.fault];
  if (fault !== undefined)
    return refused(
      422,
      "edit/audience",
      t("rounds.theAudienceIsNotRight", { sign: fault.at + 1, sentence: fault.sentence }),
      "audience",
    );
  return undefined;
}

/** Refuses a recipe whose audience, condition, pattern or posting rules are not right. */
function checkRecipe(value: RecipeValue, after: FactIndex, words: HouseWords): Refused | undefined {
  const audience = checkAudienceText(value.audience, value.each !== "house", words);
  if (audience !== undefined) return audience;
  const condition = understoodCondition(value.condition);
  const [fault] = condition.ok ? checkCondition(condition.condition) : [condition.fault];
  if (fault !== undefined)
    return refused(
      422,
      "edit/condition",
      t("rounds.theConditionIsNotRight", { sign: fault.at + 1, sentence: fault.sentence }),
      "condition",
    );
  const pattern = readPattern(value.pattern);
  if (!pattern.ok) return refused(422, "edit/pattern", pattern.fault.sentence, "pattern");
  if (!isAmigos(value.preset) && !after.presets.has(value.preset))
    return refused(
      422,
      "edit/point",
      t("rounds.thereAreNoPostingRules", { preset: value.preset }),
      "preset",
    );
  for (const rule of RULE_IDS) {
    const wrong = value[rule] === undefined ? undefined : ruleFault(rule, value[rule]);
    if (wrong !== undefined) return refused(422, "edit/point", wrong, rule);
  }
  return undefined;
}

/** Refuses other names for lists that are not there, and patterns that can't be read. */
function checkRenaming(
  { names, patterns }: Extract<Edit, { what: "names" }>,
  after: FactIndex,
): Refused | undefined {
  const wanted = wantedLists(after);
  const strange = Object.keys(names).find((key) => !wanted.has(key));
  if (strange !== undefined)
    return refused(
      422,
      "edit/list",
      t("rounds.thereIsNoListThat", { key: strange.slice(0, 80) }),
      "names",
    );
  for (const text of Object.values(patterns)) {
    const pattern = readPattern(text);
    if (!pattern.ok)
      return refused(
        422,
        "edit/pattern",
        t("rounds.isBroken", { title: text, broken: pattern.fault.sentence }),
        "pattern",
      );
  }
  return undefined;
}

/** Bounds must leave something allowed, and what is usual within it; presets must be what can be, and not be taken away while something has them. */
function checkHouse(
  { bounds, presets }: Extract<Edit, { what: "house" }>,
  standing: FactIndex,
  after: FactIndex,
): Refused | undefined {
  for (const [key, bound] of Object.entries(bounds)) {
    const rule = RULE_IDS.find((id) => key.endsWith(` ${id}`));
    if (bound === null || rule === undefined) continue;
    const bad =
      ruleFault(rule, bound.usual) ??
      bound.allowed
        .split("|")
        .map((value) => ruleFault(rule, value))
        .find((fault) => fault !== undefined);
    if (bad !== undefined) return refused(422, "edit/bound", bad, key);
    if (!isWithin(rule, bound.usual, bound))
      return refused(
        422,
        "edit/bound",
        t("rounds.whatIsUsualMustBe", { rule: wordsOf(rule, bound.usual) }),
        key,
      );
  }
  for (const [id, preset] of Object.entries(presets)) {
    if (isAmigos(id))
      return refused(422, "edit/preset", t("rounds.thisPresetIsAmigosOwn"), "presets");
    const bad =
      preset === null
        ? undefined
        : RULE_IDS.map((rule) =>
            preset[rule] === undefined ? undefined : ruleFault(rule, preset[rule]),
          ).find((fault) => fault !== undefined);
    if (bad !== undefined) return refused(422, "edit/preset", bad, "presets");
    const user =
      preset === null && standing.presets.has(id)
        ? [...wantedLists(after).values()].find((list) => list.open && list.preset === id)
        : undefined;
    if (user !== undefined)
      return refused(
        409,
        "edit/preset",
        t("rounds.hasThesePostingRulesGive", { title: user.title }),
        "presets",
      );
  }
  return undefined;
}

/** A list that somebody edits is one that a recipe can make, or one with an id of its own; what is said of it must be what can be. */
function checkList(
  { key, points, keep = [] }: Extract<Edit, { what: "lists" }>["lists"][number],
  after: FactIndex,
): Refused | undefined {
  const parts = listKeyParts(key);
  const isKnown =
    parts === undefined
      ? /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(key)
      : after.recipes.has(parts.recipe) &&
        (after.cohorts.has(parts.of) || /^(site|level):|^house$/.test(parts.of));
  if (!isKnown)
    return refused(
      422,
      "edit/list",
      t("rounds.thereIsNoListAnd", { key: key.slice(0, 80) }),
      "lists",
    );
  if (parts === undefined && !(after.lists.get(key)?.has("title") ?? false))
    return refused(422, "edit/list", t("rounds.giveTheListADisplay"), "title");
  for (const [point, value] of Object.entries(points) as [ListPoint, string | null][]) {
    const fault =
      value === null
        ? undefined
        : pointFault(point, value, {
            isStaff: (id) => after.people.get(id)?.role === "staff",
            isPreset: (id) => isAmigos(id) || after.presets.has(id),
          });
    if (fault !== undefined) return refused(422, "edit/point", fault, point);
  }
  for (const address of keep) {
    const read = readAddress(address, new Map());
    if (read.answer !== "clean" || read.address !== address)
      return refused(422, "edit/address", noAddress(address, read), "keep");
  }
  return undefined;
}
