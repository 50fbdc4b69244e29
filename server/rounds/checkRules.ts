import type { Message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { isInside } from "@amigo/core/address/isInside";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import type { Edit } from "@amigo/core/lists/edit";
import { houseOfLists, rulesBroken, type HouseOfLists } from "@amigo/core/lists/rulesBroken";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import type { WantedList } from "@amigo/core/lists/wantedLists";
import { boundSentence } from "@amigo/core/posting/houseRules";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import { refused, type Refused } from "../refused";
import { outsideWords } from "../membership/outside";
import { t } from "../texts/t";

/** What is wrong between the rules of a list that was not wrong before, of what is refused. */
export function freshlyBroken(
  key: string,
  before: HouseOfLists,
  after: HouseOfLists,
  insideDomains: readonly string[],
): Message[] {
  const [old, now] = [before.lists.get(key), after.lists.get(key)];
  if (now === undefined) return [];
  const were = new Set(
    old === undefined
      ? []
      : rulesBroken(old, before, insideDomains).map(({ sentence }) => say(sentence)),
  );
  return rulesBroken(now, after, insideDomains)
    .filter(({ invariant, sentence }) => invariant.refuses && !were.has(say(sentence)))
    .map(({ sentence }) => sentence);
}

/** Returns where the rules of a list aren't within those of the house, or contradict each other. */
export function checkRules(
  edit: Edit,
  standing: FactIndex,
  after: FactIndex,
  insideDomains: readonly string[],
): Refused | undefined {
  if (edit.what !== "lists" && edit.what !== "recipe") return undefined;
  const [was, is] = [houseOfLists(standing), houseOfLists(after)];
  const isTouched = (list: WantedList): boolean =>
    edit.what === "recipe"
      ? list.recipe === edit.recipe
      : edit.lists.some(({ key }) => key === list.key);
  for (const list of is.lists.values()) {
    if (!list.open || !isTouched(list)) continue;
    const were = new Set(
      was.lists.get(list.key)?.refused.map(({ rule, chosen }) => `${rule} ${chosen}`),
    );
    const beyond = list.refused.find(({ rule, chosen }) => !were.has(`${rule} ${chosen}`));
    if (beyond !== undefined)
      return refused(
        422,
        "edit/house-rule",
        t("rounds.aCoordinatorCanChangeThat", {
          title: list.title,
          kind: boundSentence(list.kind, beyond.rule, beyond.bound),
          rule: wordsOf(beyond.rule, beyond.chosen),
        }),
        beyond.rule,
      );
    const [broken] = freshlyBroken(list.key, was, is, insideDomains);
    if (broken !== undefined)
      return refused(422, "edit/invariant", t("rounds.isBroken", { title: list.title, broken }));
  }
  return undefined;
}

/** Returns which addresses that are put on a list by hand its rules don't take. */
export function checkKept(
  edit: Edit,
  after: FactIndex,
  insideDomains: readonly string[],
): Refused | undefined {
  if (edit.what !== "lists" || edit.lists.every(({ keep = [] }) => keep.length === 0))
    return undefined;
  const guardians = new Set(
    [...after.people.values()].flatMap(({ role, addresses }) =>
      role === "guardian" ? [...addresses] : [],
    ),
  );
  const wanted = wantedLists(after);
  for (const { key, keep = [] } of edit.lists) {
    const rules = wanted.get(key)?.rules;
    if (rules === undefined || rules.outside === "any") continue;
    const strange = keep.filter(
      (address) =>
        !isInside(address, insideDomains) &&
        !(rules.outside === "guardians" && guardians.has(address)),
    );
    if (strange[0] !== undefined)
      return refused(
        422,
        "edit/outside",
        t("rounds.outsideYourDomainsAnd", {
          first: strange[0],
          more: strange.length - 1,
          why: outsideWords(rules),
        }),
        "outside",
      );
  }
  return undefined;
}
