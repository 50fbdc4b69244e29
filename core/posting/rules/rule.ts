import type { Message } from "@amigo/language/message";
import type { MailToJudge } from "../mailToJudge";

/** Everything that the posting rules of a list settle, in the order in which they are asked about a mail and read as sentences. */
export const RULE_IDS = [
  "writers",
  "also",
  "other",
  "membersPosts",
  "from",
  "replies",
  "seen",
  "roster",
  "archive",
  "findable",
  "joining",
  "leaving",
  "outside",
  "outsideWait",
  "attachments",
  "attachmentSize",
  "longest",
  "perDay",
  "shelfKinds",
  "howOften",
  "welcome",
  "footer",
] as const;

export type RuleId = (typeof RULE_IDS)[number];

/** The posting rules of a list: a value for each, as text. Numbers stand as digits. */
export type Rules = Readonly<Record<RuleId, string>>;

/** What sort of people a list is for; the house has rules for each. */
export const LIST_KINDS = ["guardians", "students", "staff", "other"] as const;

export type ListKind = (typeof LIST_KINDS)[number];

/** One value of a rule, and how sentences say it. */
export interface RuleChoice {
  value: string;
  words: Message;
}

/** What a rule says of one mail. Without an outcome the mail goes on to the next rule. */
export interface Judgement {
  sentence: Message;
  outcome?: "held" | "returned" | "dropped";
}

/** A posting rule. To add one, add a file with one of these and name it in `allRules.ts`. */
export interface Rule {
  id: RuleId;
  /** How the interface names it. */
  words: Message;
  /** A choice of a few, a number up to `most`, some addresses, or a longer text. */
  form: "choice" | "number" | "addresses" | "text";
  /** The values of a choice, the strictest first. */
  values: readonly RuleChoice[];
  /** The largest number there can be, and what it counts. */
  most?: number;
  unit?: Message;
  /** What holds where nobody has said otherwise. */
  usual: string;
  /** What else can be wrong with a value, in a sentence. */
  fault?: (value: string) => Message | undefined;
  /** What it makes of a mail; undefined where it has nothing to say of it. */
  judge?: (mail: MailToJudge, rules: Rules) => Judgement | undefined;
}
