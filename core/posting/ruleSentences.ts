import type { ListRules } from "../lists/recipe";
import type { PostingRules } from "./presets";

/** A rule as a sentence; the parts in `choice` are what is settled. */
export type RuleSentence = readonly { text: string; choice: boolean }[];

const plain = (text: string): { text: string; choice: boolean } => ({ text, choice: false });
const choice = (text: string): { text: string; choice: boolean } => ({ text, choice: true });

/** The rules of a list as plain sentences. */
export function ruleSentences(rules: PostingRules, own: Pick<ListRules, "findable" | "outside" | "leaving">): RuleSentence[] {
  return [
    [choice("Leads, helpers and coordinators"), plain(" may write; mail of anybody else is "), choice("returned with a reason"), plain(".")],
    [plain("Posts come "), choice("from the writer by way of the list"), plain("; replies go to "), choice("the writer"), plain(".")],
    [plain("Members "), choice(rules.membersSeeEachOther ? "see" : "do not see"), plain(" each other.")],
    [plain("Outside addresses are "), choice(own.outside === "any" ? "allowed" : "not allowed"), plain(".")],
    [plain("People join "), choice("by the roster or by a coordinator"), plain(own.leaving === "by oneself" ? " and may " : " and leave "), choice(own.leaving === "by oneself" ? "leave by themselves" : "through a lead"), plain(".")],
    [plain("The list is found by "), choice(own.findable === "staff" ? "everybody on the staff" : "its leads and coordinators"), plain(".")],
  ];
}
