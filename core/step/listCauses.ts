import type { Fact } from "../facts/fact";
import type { Exemption } from "../posting/houseRules";
import { ALL_RULES, wordsOf } from "../posting/rules/allRules";
import { RULE_IDS, type RuleId } from "../posting/rules/rule";
import { recipeNumber, type FactIndex } from "../facts/indexFacts";
import { POINT_WORDS, type ListPoint } from "../lists/listPoint";
import type { RecipeValue } from "../lists/recipe";
import { wantedList } from "../lists/wantedLists";
import { joined } from "../text/sentence";
import type { Cause } from "./cause";

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
      ? `new recipe: ${now?.audience ?? ""}`
      : now === undefined
        ? "no longer a recipe"
        : `${joined(what.map((point) => (point in ALL_RULES ? ALL_RULES[point as RuleId].words : point)))} changed`;
  return {
    key: `recipe ${subject} ${detail}`,
    kind: "recipe",
    subject,
    title,
    detail,
    sentence: `${title}: ${detail}`,
    group: "",
    ...facts,
  };
}

function shortCause(subject: string, facts: Facts): Cause {
  const title = subject.slice("short:".length);
  const value = (own: readonly Fact[]): string => {
    const [fact] = own;
    return fact?.kind === "short" ? fact.value : "none";
  };
  const detail = `short form ${value(facts.removes)} → ${value(facts.adds)}`;
  return {
    key: `naming ${subject} ${detail}`,
    kind: "naming",
    subject,
    title,
    detail,
    sentence: `${title}: ${detail}`,
    group: "",
    ...facts,
  };
}

function listCause(subject: string, facts: Facts, was: FactIndex, is: FactIndex): Cause {
  const list = wantedList(is, subject) ?? wantedList(was, subject);
  const title = list?.title ?? subject;
  const before = was.lists.get(subject);
  const now = is.lists.get(subject);
  const points = [
    ...new Set(
      [...facts.adds, ...facts.removes].flatMap(({ kind, ref }) =>
        kind === "list" ? [ref as ListPoint] : [],
      ),
    ),
  ];
  const words = points.map((point) => {
    if (point === "state")
      return now?.get(point) === "closed"
        ? "closed"
        : before?.get(point) === "closed"
          ? "opened again"
          : "made";
    if (point === "name")
      return `name ${before?.get(point) ?? "none"} → ${now?.get(point) ?? "none"}`;
    if (now?.get(point) === undefined) return `${POINT_WORDS[point]} by the recipe again`;
    return `${POINT_WORDS[point]} changed`;
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
            : `what ${fact.value.by} allowed beyond the house rules has ended`,
        ]
      : [],
  );
  const isNew =
    list?.recipe === undefined &&
    before?.get("title") === undefined &&
    now?.get("title") !== undefined;
  const aliases = facts.adds.flatMap((fact) =>
    fact.kind === "alias" ? [`${fact.ref} still leads there until ${fact.value}`] : [],
  );
  const detail = isNew
    ? `new list: ${now?.get("audience") || "people by hand"}`
    : [...allowed, ...words, ...aliases].join("; ") || "an old name no longer leads there";
  const ends =
    facts.adds.length === 0 &&
    facts.removes.length > 0 &&
    facts.removes.every(({ kind }) => kind === "exemption");
  return {
    key: `list ${subject} ${detail}`,
    kind: ends ? "expired" : "list",
    subject,
    title,
    detail,
    sentence: `${title}: ${detail}`,
    group: "",
    ...facts,
  };
}

function exemptionWords(ref: string, { allowed, until, by }: Exemption): string {
  const what =
    ref in ALL_RULES
      ? `${ALL_RULES[ref as RuleId].words}: "${wordsOf(ref as RuleId, allowed)}"`
      : `the name "${allowed}"`;
  return `${by} allowed ${what}${until === "" ? "" : ` until ${until}`}`;
}

/** What was changed about the rules of the house, or about one of its presets. */
function rulesCause(subject: string, facts: Facts): Cause {
  const preset = [...facts.adds, ...facts.removes].find((fact) => fact.kind === "preset");
  const title = preset?.kind === "preset" ? `Posting rules "${preset.value.name}"` : "House rules";
  const words = [
    ...new Set(
      [...facts.adds, ...facts.removes].flatMap((fact) => {
        if (fact.kind === "bound") {
          const [kind = "", rule = ""] = fact.ref.split(" ");
          return [`${ALL_RULES[rule as RuleId].words} (${kind})`];
        }
        return fact.kind === "invariant"
          ? [`"${fact.ref}" ${facts.adds.includes(fact) ? "no longer holds" : "holds again"}`]
          : [];
      }),
    ),
  ];
  const detail =
    preset === undefined
      ? `${joined(words)} changed`
      : facts.adds.length === 0
        ? "no longer a preset"
        : facts.removes.length === 0
          ? "new preset"
          : "changed";
  return {
    key: `rules ${subject} ${detail}`,
    kind: "rules",
    subject,
    title,
    detail,
    sentence: `${title}: ${detail}`,
    group: "",
    ...facts,
  };
}
