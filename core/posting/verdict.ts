import { ALL_RULES } from "./rules/allRules";
import { goesToLeads } from "./rules/membersPosts";
import { RULE_IDS, type RuleId, type Rules } from "./rules/rule";
import type { MailToJudge, Proof, Sender } from "./mailToJudge";

/** One step of the reasoning; `rule` names the rule that it rests on. */
export interface VerdictReason {
  rule: RuleId | "sender" | "proof" | "spam" | "closed";
  sentence: string;
}

export interface Verdict {
  outcome: "goes out" | "held" | "returned" | "dropped";
  /** Whom it reaches when it goes out. */
  reaches: "members" | "leads";
  /** Whether a link is mailed to the claimed sender, by which they say that the mail is theirs. */
  askSender: boolean;
  reasons: VerdictReason[];
}

/** That a list takes no mail any more: it was closed, or its season is over; and the list that has taken its place. */
export interface Closed {
  /** The season, where that is over. */
  seasonOver: string | undefined;
  /** Title and address of the list that has taken its place. */
  now: { title: string; address: string } | undefined;
}

/** What the verdict needs of a list: its rules, already within those of the house, and whether it is closed. */
export interface ListToJudge {
  rules: Rules;
  closed?: Closed;
}

const PROVEN: Record<Proof, string | undefined> = {
  "signed-in": "They are signed in, so it is theirs.",
  dkim: "It carries a signature of the sender's own domain, so it is theirs.",
  spf: "It came through a relay that the sender's own domain names, so it is theirs.",
  confirmed: "They have said by a mailed link that it is theirs.",
  none: undefined,
};

/** Rules that are asked about every mail once it is clear whose it is. */
const ABOUT_THE_MESSAGE: readonly RuleId[] = ["attachments", "attachmentSize", "longest", "perDay"];

/**
 * Decides what happens to mail of one sender to one list, and why: the one function behind incoming mail, the composer,
 * the API and "Try an address". The house has its part in the list's rules, which are already within its own.
 */
export function verdict(mail: MailToJudge, list: ListToJudge): Verdict {
  const { sender, proof, message } = mail;
  const { rules, closed } = list;
  if (closed !== undefined)
    return {
      outcome: "returned",
      reaches: "members",
      askSender: false,
      reasons: [{ rule: "closed", sentence: closedSentence(closed) }],
    };
  const reasons: VerdictReason[] = [
    { rule: "sender", sentence: `${sender.name} is ${describeSender(sender)}.` },
  ];
  const reaches = goesToLeads(mail, rules) ? "leads" : "members";
  const end = (outcome: Verdict["outcome"], askSender = false): Verdict => ({
    outcome,
    reaches,
    askSender,
    reasons,
  });
  const ask = (id: RuleId): Verdict | undefined => {
    const said = ALL_RULES[id].judge?.(mail, rules);
    if (said !== undefined) reasons.push({ rule: id, sentence: said.sentence });
    return said?.outcome === undefined ? undefined : end(said.outcome);
  };
  for (const id of RULE_IDS) {
    const ended = ABOUT_THE_MESSAGE.includes(id) ? undefined : ask(id);
    if (ended !== undefined) return ended;
  }
  const proven = PROVEN[proof];
  reasons.push({
    rule: "proof",
    sentence:
      proven ??
      `Nothing proves who sent this mail: anybody can write any From line. ${sender.isKnown ? "They are sent a link to confirm that they wrote it." : "It waits for a lead or helper to decide."}`,
  });
  for (const id of ABOUT_THE_MESSAGE) {
    const ended = ask(id);
    if (ended !== undefined) return ended;
  }
  if (proven === undefined) return end("held", sender.isKnown);
  if (message.looksLikeSpam && proof !== "signed-in") {
    reasons.push({
      rule: "spam",
      sentence:
        "A filter on the way has marked it as unwanted, so a lead or helper looks at it first.",
    });
    return end("held");
  }
  return end("goes out");
}

function describeSender({ isCoordinator, listRole, isMember, isInside }: Sender): string {
  if (isCoordinator) return "a coordinator";
  if (listRole === "lead") return "a lead of this list";
  if (listRole === "helper") return "a helper of this list";
  if (isMember) return "a member of this list, not a lead or helper";
  return `not a lead, helper or member of this list${isInside ? ", but inside your domains" : ""}`;
}

function closedSentence({ seasonOver, now }: Closed): string {
  const why =
    seasonOver === undefined
      ? "This list is closed."
      : `The season ${seasonOver} is over, and this list was of that season.`;
  return now === undefined
    ? `${why} Nobody gets mail from it any more.`
    : `${why} The list now is ${now.title}: ${now.address}.`;
}

/** What somebody could see of a list, each with the rule as its reason. */
export interface Sight {
  finds: boolean;
  seesMembers: boolean;
  readsArchive: boolean;
  reasons: { rule: RuleId; sentence: string }[];
}

/** What somebody may see of a list, beside writing to it. `isStaff`: they have an account. */
export function sightOf(sender: Sender, isStaff: boolean, rules: Rules): Sight {
  const runs = sender.isCoordinator || sender.listRole !== "none";
  const is = (value: string): boolean =>
    runs ||
    (value === "staff" && isStaff) ||
    (value === "members" && (sender.isMember || isStaff)) ||
    (value === "inside" && (sender.isMember || sender.isInside || isStaff));
  const finds = is(rules.findable);
  const seesMembers =
    runs ||
    (rules.roster !== "leads" && isStaff) ||
    (rules.roster === "members" && sender.isMember && rules.seen === "yes");
  const readsArchive =
    rules.archive !== "none" &&
    (runs ||
      (rules.archive !== "leads" && sender.isMember) ||
      (rules.archive === "inside" && sender.isInside));
  const say = (
    rule: RuleId,
    yes: boolean,
    does: string,
    not: string,
  ): { rule: RuleId; sentence: string } => ({
    rule,
    sentence: `${sender.name} ${yes ? does : not}.`,
  });
  return {
    finds,
    seesMembers,
    readsArchive,
    reasons: [
      say("findable", finds, "finds the list", "does not find the list by typing"),
      say("roster", seesMembers, "may see who is on it", "does not see who is on it"),
      say("archive", readsArchive, "may read what was written", "may not read what was written"),
    ],
  };
}
