import { message, type Message } from "@amigo/language/message";
import { wordsOf } from "./rules/allRules";
import type { RuleId, Rules } from "./rules/rule";

/** A sentence and the rules that stand in it. The welcome and the footer are texts of their own. */
const SENTENCES = [
  { id: "posting.whoMayWriteHere", rules: ["writers", "also", "other"] },
  { id: "posting.postsByMembers", rules: ["membersPosts"] },
  { id: "posting.repliesAndPosts", rules: ["replies", "from"] },
  { id: "posting.membersAndTheirList", rules: ["seen", "roster"] },
  { id: "posting.outsideAddressesHere", rules: ["outside", "outsideWait"] },
  { id: "posting.peopleJoinAndLeave", rules: ["joining", "leaving"] },
  { id: "posting.foundAndRead", rules: ["findable", "archive"] },
  { id: "posting.aPostMayCarry", rules: ["attachments", "attachmentSize", "longest", "perDay"] },
  { id: "posting.whatTheShelfTakes", rules: ["shelfKinds"] },
  { id: "posting.whoHasNotChosen", rules: ["howOften"] },
] as const;

/** The rules of a list as plain sentences; each value stands in the place of its rule. What can't come about is left out. */
export function ruleSentences(rules: Rules): Message[] {
  return SENTENCES.filter((sentence) => isTold(sentence.rules, rules)).map((sentence) =>
    sentenceOf(sentence, rules),
  );
}

/** What is asked about first; the rest stands behind it. */
const FIRST: readonly RuleId[] = ["writers", "membersPosts", "replies", "outside"];

/** The sentences that can come about by some rules: those asked about first, or the rest. */
export function ruleTemplates(rules: Rules, which: "first" | "rest"): Message[] {
  return SENTENCES.filter(
    (sentence) =>
      isTold(sentence.rules, rules) &&
      sentence.rules.some((id) => FIRST.includes(id)) === (which === "first"),
  ).map((sentence) => sentenceOf(sentence, { ...rules, also: "" }));
}

function sentenceOf({ id, rules: ids }: (typeof SENTENCES)[number], rules: Rules): Message {
  return message(id, {
    ...Object.fromEntries(ids.map((rule) => [rule, wordsOf(rule, rules[rule])])),
    ...(id === "posting.whoMayWriteHere" ? { hasAlso: rules.also !== "" } : {}),
  });
}

function isTold(ids: readonly RuleId[], rules: Rules): boolean {
  return !ids.includes("membersPosts") || rules.writers === "members" || rules.writers === "inside";
}
