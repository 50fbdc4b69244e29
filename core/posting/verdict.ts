import type { MayWrite, OtherMail, PostingRules } from "./presets";

/** What a sender is to a list and its house. */
export interface Sender {
  /** How the reasons name them: a name where it is known, else the address. */
  name: string;
  isCoordinator: boolean;
  listRole: "lead" | "helper" | "none";
  isMember: boolean;
}

/** How it is known that a mail is its sender's: a signed-in session or submission, or only what its From says. */
export type Proof = "signed-in" | "claimed";

/** One step of the reasoning; `rule` names the rule that it rests on. */
export interface VerdictReason {
  rule: "who may write" | "other mail" | "proof" | "role" | "closed";
  sentence: string;
}

export interface Verdict {
  outcome: "goes out" | "returned";
  reasons: VerdictReason[];
}

/** That a list takes no mail any more: it was closed, or its season is over; and the list that has taken its place. */
export interface Closed {
  /** The season, where that is over. */
  seasonOver: string | undefined;
  /** Title and address of the list that has taken its place. */
  now: { title: string; address: string } | undefined;
}

function closedSentence({ seasonOver, now }: Closed): string {
  const why = seasonOver === undefined ? "This list is closed." : `The season ${seasonOver} is over, and this list was of that season.`;
  return now === undefined ? `${why} Nobody gets mail from it any more.` : `${why} The list now is ${now.title}: ${now.address}.`;
}

const MAY_WRITE: Record<MayWrite, { sentence: string; test: (sender: Sender) => boolean }> = {
  "leads and helpers": { sentence: "Leads, helpers and coordinators may write to this list.", test: (sender) => sender.isCoordinator || sender.listRole !== "none" },
};

const OTHER_MAIL: Record<OtherMail, string> = { returned: "Other mail is returned with a reason." };

/**
 * Decides what happens to mail of one sender to one list, and why. The same function answers for
 * incoming mail, for the composer and for "Try an address".
 */
export function verdict(sender: Sender, proof: Proof, rules: PostingRules, closed?: Closed): Verdict {
  if (closed !== undefined) return { outcome: "returned", reasons: [{ rule: "closed", sentence: closedSentence(closed) }] };
  const what = describeSender(sender);
  const reasons: VerdictReason[] = [{ rule: "role", sentence: `${sender.name} is ${what}.` }];
  const { test, sentence } = MAY_WRITE[rules.mayWrite];
  reasons.push({ rule: "who may write", sentence });
  if (!test(sender)) {
    reasons.push({ rule: "other mail", sentence: OTHER_MAIL[rules.otherMail] });
    return { outcome: rules.otherMail, reasons };
  }
  if (proof === "claimed") {
    reasons.push({ rule: "proof", sentence: "Nothing proves that this mail is theirs: a From line can be written by anybody. It counts when they are signed in, here or in their mail program." });
    return { outcome: "returned", reasons };
  }
  return { outcome: "goes out", reasons };
}

function describeSender({ isCoordinator, listRole, isMember }: Sender): string {
  if (isCoordinator) return "a coordinator";
  if (listRole === "lead") return "a lead of this list";
  if (listRole === "helper") return "a helper of this list";
  return isMember ? "a member of this list, not a lead or helper" : "not a lead, helper or member of this list";
}
