import { each, message, type CoreTextId, type Message } from "@amigo/language/message";
import { factKey, type Fact } from "../../facts/fact";
import { hash } from "../../text/hash";
import { kindWords, type Exemption } from "../../posting/houseRules";
import { ALL_RULES, wordsOf } from "../../posting/rules/allRules";
import { RULE_IDS, type ListKind, type RuleId } from "../../posting/rules/rule";
import { recipeNumber, type FactIndex } from "../../facts/factIndex";
import { LIST_POINTS, POINT_WORDS } from "../../lists/listPoint";
import type { RecipeValue } from "../../lists/recipe";
import { wantedList } from "../../lists/wantedLists";
import type { Cause } from "../cause";

/** What was changed about house rules, recipes, lists and short forms: one cause for each of them. */
export function listCauses(
  subject: string,
  adds: readonly Fact[],
  removes: readonly Fact[],
  was: FactIndex,
  is: FactIndex,
): Cause[] {
  const of = (kinds: readonly Fact["kind"][]) => ({
    adds: adds.filter(({ kind }) => kinds.includes(kind)),
    removes: removes.filter(({ kind }) => kinds.includes(kind)),
  });
  const causes: Cause[] = [];
  const recipe = of(["recipe"]);
  if (recipe.adds.length + recipe.removes.length > 0)
    causes.push(recipeCause(subject, recipe, was, is));
  const short = of(["short"]);
  if (short.adds.length + short.removes.length > 0) causes.push(shortCause(subject, short));
  const rules = of(["bound", "invariant", "preset"]);
  if (rules.adds.length + rules.removes.length > 0) causes.push(rulesCause(subject, rules));
  const list = of(["list", "alias", "exemption"]);
  if (list.adds.length + list.removes.length > 0) causes.push(listCause(subject, list, was, is));
  return causes;
}

type Facts = Pick<Cause, "adds" | "removes">;

const RECIPE_WORDS: readonly (keyof RecipeValue)[] = [
  "name",
  "label",
  "position",
  "each",
  "condition",
  "audience",
  "pattern",
  "preset",
  "leads",
  "helpers",
  "adding",
  "season",
  ...RULE_IDS,
];

/** The points of a recipe that are no posting rules, in words. */
const RECIPE_POINTS: Readonly<Record<Exclude<keyof RecipeValue, RuleId>, CoreTextId>> = {
  name: "step.recipeName",
  label: "step.recipeLabel",
  keepsCase: "step.recipeLabel",
  position: "step.recipePosition",
  each: "step.recipeEach",
  condition: "step.recipeCondition",
  audience: "step.recipeAudience",
  pattern: "step.recipePattern",
  preset: "step.recipePreset",
  leads: "step.recipeLeads",
  helpers: "step.recipeHelpers",
  adding: "step.recipeAdding",
  season: "step.recipeSeason",
};

function recipeCause(subject: string, facts: Facts, was: FactIndex, is: FactIndex): Cause {
  const old = was.recipes.get(recipeNumber(subject));
  const now = is.recipes.get(recipeNumber(subject));
  const title = now?.name ?? old?.name ?? "";
  const what =
    old === undefined || now === undefined
      ? []
      : RECIPE_WORDS.filter((point) => old[point] !== now[point]);
  const detail =
    old === undefined
      ? message("step.newRecipe", { audience: now?.audience ?? "" })
      : now === undefined
        ? message("step.recipeGone")
        : message("step.changed", {
            what: each(
              what.map((point) =>
                point in ALL_RULES
                  ? ALL_RULES[point as RuleId].words
                  : message(RECIPE_POINTS[point as Exclude<keyof RecipeValue, RuleId>]),
              ),
            ),
          });
  const changes = old === undefined ? "new" : now === undefined ? "gone" : keyOf(facts);
  return {
    key: `recipe ${subject} ${changes}`,
    kind: "recipe",
    subject,
    title,
    detail,
    sentence: message("step.about", { name: title, what: detail }),
    group: "",
    ...facts,
  };
}

function shortCause(subject: string, facts: Facts): Cause {
  const title = subject.slice("short:".length);
  const value = (eachFact: readonly Fact[]): string => {
    const [fact] = eachFact;
    return fact?.kind === "short" ? fact.value : "";
  };
  const values = { before: value(facts.removes), after: value(facts.adds) };
  const detail = message("step.shortForm", values);
  return {
    key: `naming ${subject} short form ${values.before || "none"} → ${values.after || "none"}`,
    kind: "naming",
    subject,
    title,
    detail,
    sentence: message("step.about", { name: title, what: detail }),
    group: "",
    ...facts,
  };
}

function listCause(subject: string, facts: Facts, was: FactIndex, is: FactIndex): Cause {
  const list = wantedList(is, subject) ?? wantedList(was, subject);
  const title = list?.title ?? subject;
  const before = was.lists.get(subject);
  const now = is.lists.get(subject);
  const changed = new Set<string>(
    [...facts.adds, ...facts.removes].flatMap(({ kind, ref }) => (kind === "list" ? [ref] : [])),
  );
  const points = LIST_POINTS.filter((point) => changed.has(point));
  const words = points.map((point) => {
    if (point === "state")
      return now?.get(point) === "closed"
        ? message("step.closed")
        : before?.get(point) === "closed"
          ? message("step.openedAgain")
          : message("step.made");
    if (point === "name")
      return message("step.fieldChange", {
        field: "name",
        before: before?.get(point),
        after: now?.get(point),
      });
    if (now?.get(point) === undefined)
      return message("step.byTheRecipeAgain", { point: POINT_WORDS[point] });
    return message("step.changed", { what: POINT_WORDS[point] });
  });
  const allowed = [
    ...facts.adds,
    ...facts.removes.filter(
      (old) => !facts.adds.some(({ kind, ref }) => kind === old.kind && ref === old.ref),
    ),
  ].flatMap((fact) =>
    fact.kind === "exemption"
      ? [
          facts.adds.includes(fact)
            ? exemptionWords(fact.ref, fact.value)
            : message("step.exemptionEnded", { by: fact.value.by }),
        ]
      : [],
  );
  const isSingle = list?.recipe === undefined;
  const wasThere = before?.get("title") !== undefined;
  const isThere = now?.get("title") !== undefined;
  const isNew = isSingle && !wasThere && isThere;
  const isGone = isSingle && wasThere && !isThere;
  const aliases = facts.adds.flatMap((fact) =>
    fact.kind === "alias"
      ? [message("step.aliasLeads", { name: fact.ref, until: { day: fact.value } })]
      : [],
  );
  const said = [...allowed, ...words, ...aliases];
  const detail = isNew
    ? message("step.newList", { audience: now?.get("audience") })
    : isGone
      ? message("step.listGone")
      : said.length === 0
        ? message("step.aliasEnded")
        : each(said, "comma");
  const ends =
    facts.adds.length === 0 &&
    facts.removes.length > 0 &&
    facts.removes.every(({ kind }) => kind === "exemption");
  return {
    key: `list ${subject} ${keyOf(facts)}`,
    kind: ends ? "expired" : "list",
    subject,
    title,
    detail,
    sentence: message("step.about", { name: title, what: detail }),
    group: "",
    ...facts,
  };
}

/** What has changed, as a part of the key by which a decision is remembered: nothing that depends on a language. */
function keyOf({ adds, removes }: Facts): string {
  const told = (sign: string, facts: readonly Fact[]): string[] =>
    facts.map(
      (fact) => `${sign} ${factKey(fact)} ${"value" in fact ? JSON.stringify(fact.value) : ""}`,
    );
  return hash([...told("+", adds), ...told("-", removes)].sort().join("\n"));
}

/** Messages without those that say the same again. */
function onceEach(messages: readonly Message[]): Message[] {
  return [...new Map(messages.map((one) => [JSON.stringify(one), one])).values()];
}

function exemptionWords(ref: string, { allowed, until, by }: Exemption): Message {
  const values = { by, until: until === "" ? null : { day: until } };
  return ref in ALL_RULES
    ? message("step.ruleAllowed", {
        ...values,
        rule: ALL_RULES[ref as RuleId].words,
        value: wordsOf(ref as RuleId, allowed),
      })
    : message("step.nameAllowed", { ...values, name: allowed });
}

/** What was changed about the rules of the house, or about one of its presets. */
function rulesCause(subject: string, facts: Facts): Cause {
  const preset = [...facts.adds, ...facts.removes].find((fact) => fact.kind === "preset");
  const title =
    preset?.kind === "preset"
      ? message("step.presetTitle", { name: preset.value.name })
      : message("step.houseRules");
  const bounds = onceEach(
    [...facts.adds, ...facts.removes].flatMap((fact) => {
      if (fact.kind !== "bound") return [];
      const [kind = "", rule = ""] = fact.ref.split(" ");
      return [
        message("step.boundOf", {
          rule: ALL_RULES[rule as RuleId].words,
          lists: kindWords(kind as ListKind),
        }),
      ];
    }),
  );
  const invariants = [...facts.adds, ...facts.removes].flatMap((fact) =>
    fact.kind === "invariant"
      ? [message("step.invariant", { rule: fact.ref, ends: facts.adds.includes(fact) })]
      : [],
  );
  const words = [
    ...(bounds.length > 0 ? [message("step.changed", { what: each(bounds) })] : []),
    ...invariants,
  ];
  const detail =
    preset === undefined
      ? each(words, "comma")
      : facts.adds.length === 0
        ? message("step.presetGone")
        : facts.removes.length === 0
          ? message("step.newPreset")
          : message("step.presetChanged");
  return {
    key: `rules ${subject} ${keyOf(facts)}`,
    kind: "rules",
    subject,
    title,
    detail,
    sentence: message("step.about", { name: title, what: detail }),
    group: "",
    ...facts,
  };
}
