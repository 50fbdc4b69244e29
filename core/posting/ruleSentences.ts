import type { PostingRules } from "./presets";

/** A rule as a sentence; the parts in `choice` are what is settled. */
export type RuleSentence = readonly { text: string; choice: boolean }[];

const plain = (text: string): { text: string; choice: boolean } => ({ text, choice: false });
const choice = (text: string): { text: string; choice: boolean } => ({ text, choice: true });

/** The posting rules of a list as plain sentences. */
export function ruleSentences(rules: PostingRules): RuleSentence[] {
  return [
    [choice("Leads, helpers and coordinators"), plain(" may write; mail of anybody else is "), choice("returned with a reason"), plain(".")],
    [plain("Posts come "), choice("from the writer by way of the list"), plain("; replies go to "), choice("the writer"), plain(".")],
    [plain("Members "), choice(rules.membersSeeEachOther ? "see" : "do not see"), plain(" each other.")],
    [plain("People join "), choice("by the roster only"), plain(rules.leaving === "by oneself" ? " and may " : " and leave "), choice(rules.leaving === "by oneself" ? "leave by themselves" : "through a lead"), plain(".")],
  ];
}
