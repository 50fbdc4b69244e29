import type { PostingRules } from "./presets";

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
  rule: "who may write" | "other mail" | "proof" | "role";
  sentence: string;
}

export interface Verdict {
  outcome: "goes out" | "returned";
  reasons: VerdictReason[];
}

/**
 * Decides what happens to mail of one sender to one list, and why. The same function answers for
 * incoming mail, for the composer and for "Try an address".
 */
export function verdict(sender: Sender, proof: Proof, rules: PostingRules): Verdict {
  const what = describeSender(sender);
  const reasons: VerdictReason[] = [{ rule: "role", sentence: `${sender.name} is ${what}.` }];
  const mayWrite = sender.isCoordinator || sender.listRole !== "none";
  reasons.push({ rule: "who may write", sentence: "Leads, helpers and coordinators may write to this list." });
  if (!mayWrite) {
    reasons.push({ rule: "other mail", sentence: "Other mail is returned with a reason." });
    return { outcome: "returned", reasons };
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
