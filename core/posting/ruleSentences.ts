import { wordsOf } from "./rules/allRules";
import type { RuleId, Rules } from "./rules/rule";

/** A rule as a sentence; the parts with a `rule` say what it is settled to. */
export type RuleSentence = readonly RulePart[];

export interface RulePart {
  text: string;
  rule: RuleId | undefined;
}

/** A sentence with the rules inside it: `{writers} may write`. The welcome and the footer are texts of their own. */
const SENTENCES: readonly string[] = [
  "{writers} may write{also}; mail from anyone else is {other}.",
  "Posts by members go to {membersPosts}.",
  "Replies go to {replies}. Posts come {from}.",
  "Members {seen} each other. The member list is visible to {roster}.",
  "Outside addresses: {outside}. When added by hand, they {outsideWait}.",
  "People join {joining} and {leaving}.",
  "The list can be found by {findable}. Its archive can be read by {archive}.",
  "A post may carry {attachments}, each up to {attachmentSize}, and have up to {longest}. At most {perDay}.",
  "Members who haven't chosen get {howOften}.",
];

/** The rules of a list as plain sentences. What can not come about is left out. */
export function ruleSentences(rules: Rules): RuleSentence[] {
  return SENTENCES.filter((template) => isTold(template, rules)).map((template) =>
    template.split(/(\{\w+\})/).flatMap((piece): RulePart[] => {
      const id = /^\{(\w+)\}$/.exec(piece)?.[1] as RuleId | undefined;
      if (id === undefined) return piece === "" ? [] : [{ text: piece, rule: undefined }];
      if (id === "also")
        return rules.also === ""
          ? []
          : [
              { text: ", and so may ", rule: undefined },
              { text: rules.also, rule: id },
            ];
      return [{ text: wordsOf(id, rules[id]), rule: id }];
    }),
  );
}

/** What is asked about first; the rest stands behind it. */
const FIRST: readonly RuleId[] = ["writers", "membersPosts", "replies", "outside"];

/** The sentences that can come about by some rules, with every rule in them that can be set: those asked about first, or the rest. */
export function ruleTemplates(
  rules: Rules,
  which: "first" | "rest",
): readonly (readonly (string | { rule: RuleId })[])[] {
  const wanted = SENTENCES.filter(
    (template) =>
      isTold(template, rules) &&
      FIRST.some((id) => template.includes(`{${id}}`)) === (which === "first"),
  );
  return wanted.map((template) =>
    template.split(/(\{\w+\})/).flatMap((piece) => {
      const id = /^\{(\w+)\}$/.exec(piece)?.[1] as RuleId | undefined;
      return piece === "" || id === "also" ? [] : [id === undefined ? piece : { rule: id }];
    }),
  );
}

function isTold(template: string, rules: Rules): boolean {
  if (template.includes("{membersPosts}"))
    return rules.writers === "members" || rules.writers === "inside";
  return true;
}
