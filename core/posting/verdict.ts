import { message, type Message } from "@amigo/language/message";
import { ALL_RULES } from "./rules/allRules";
import { goesToLeads } from "./rules/membersPosts";
import { RULE_IDS, type RuleId, type Rules } from "./rules/rule";
import type { MailToJudge, Proof, Sender } from "./mailToJudge";

/** One step of the reasoning; `rule` names the rule that it rests on. */
export interface VerdictReason {
  rule: RuleId | "sender" | "proof" | "spam" | "closed";
  sentence: Message;
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

const PROVEN: Record<Proof, Message | undefined> = {
  "signed-in": message("posting.theyAreSignedInSo"),
  dkim: message("posting.itCarriesASignatureOf"),
  spf: message("posting.itCameThroughARelay"),
  confirmed: message("posting.theyHaveSaidByA"),
  none: undefined,
};

/** Rules that are asked about every mail once it is clear whose it is. */
const ABOUT_THE_MESSAGE: readonly RuleId[] = ["attachments", "attachmentSize", "longest", "perDay"];

/**
 * Decides what happens to mail of one sender to one list, and why: the one function behind incoming mail, the composer,
 * the API and "Try an address". The house has its part in the list's rules, which are already within its own.
 */
export function verdict(mail: MailToJudge, list: ListToJudge): Verdict {
  const { sender, proof, message: content } = mail;
  const { rules, closed } = list;
  if (closed !== undefined)
    return {
      outcome: "returned",
      reaches: "members",
      askSender: false,
      reasons: [{ rule: "closed", sentence: closedSentence(closed) }],
    };
  const reasons: VerdictReason[] = [
    {
      rule: "sender",
      sentence: message("posting.senderIs", { name: sender.name, who: describeSender(sender) }),
    },
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
    sentence: proven ?? message("posting.nothingProvesWhoSentThis", { isKnown: sender.isKnown }),
  });
  for (const id of ABOUT_THE_MESSAGE) {
    const ended = ask(id);
    if (ended !== undefined) return ended;
  }
  if (proven === undefined) return end("held", sender.isKnown);
  if (content.looksLikeSpam && proof !== "signed-in") {
    reasons.push({
      rule: "spam",
      sentence: message("posting.aFilterOnTheWay"),
    });
    return end("held");
  }
  return end("goes out");
}

function describeSender({ isCoordinator, listRole, isMember, isInside }: Sender): Message {
  if (isCoordinator) return message("posting.aCoordinator");
  if (listRole === "lead") return message("posting.aLeadOfThisList");
  if (listRole === "helper") return message("posting.aHelperOfThisList");
  if (isMember) return message("posting.aMemberOfThisList");
  return message("posting.notALeadHelperOr", { isInside });
}

function closedSentence({ seasonOver, now }: Closed): Message {
  return message("posting.listClosed", {
    season: seasonOver,
    now: now?.title,
    address: now?.address,
  });
}

/** What somebody could see of a list, each with the rule as its reason. */
export interface Sight {
  finds: boolean;
  seesMembers: boolean;
  readsArchive: boolean;
  reasons: { rule: RuleId; sentence: Message }[];
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
  return {
    finds,
    seesMembers,
    readsArchive,
    reasons: [
      { rule: "findable", sentence: message("posting.finds", { name: sender.name, finds }) },
      {
        rule: "roster",
        sentence: message("posting.seesMembers", { name: sender.name, seesMembers }),
      },
      {
        rule: "archive",
        sentence: message("posting.readsArchive", { name: sender.name, readsArchive }),
      },
    ],
  };
}
