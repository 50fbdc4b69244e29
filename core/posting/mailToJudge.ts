/** How it is known that a mail is its sender's. */
export const PROOFS = ["signed-in", "dkim", "spf", "confirmed", "none"] as const;

/**
 * A signed-in session or submission; a DKIM signature aligned with the From domain (RFC 6376, RFC 7489 section 3.1.1);
 * SPF of a relay that the From domain knows (RFC 7208); a link that the claimed sender has opened; or nothing.
 */
export type Proof = (typeof PROOFS)[number];

/** What a sender is to a list and its house. */
export interface Sender {
  /** How the reasons name them: a name where it is known, else the address. */
  name: string;
  address: string;
  /** A coordinator of the house, or of the list's site. */
  isCoordinator: boolean;
  listRole: "lead" | "helper" | "none";
  isMember: boolean;
  /** Whether the address is in the house's own domains. */
  isInside: boolean;
  /** Whether the house knows somebody behind the address, so that a link to confirm can be mailed there. */
  isKnown: boolean;
}

/** What the rules need to know of a message. */
export interface MessageToJudge {
  /** Octets. */
  size: number;
  attachments: readonly { type: string; size: number }[];
  /** Posts that went out to the list since midnight in the house's time zone. */
  postsToday: number;
  /** Whether a filter on the way has marked it as unwanted. */
  looksLikeSpam: boolean;
}

/** A message of which nothing is known yet: of the usual length, with nothing attached. */
export const PLAIN_MESSAGE: MessageToJudge = {
  size: 2000,
  attachments: [],
  postsToday: 0,
  looksLikeSpam: false,
};

/** One mail to one list. */
export interface MailToJudge {
  sender: Sender;
  proof: Proof;
  message: MessageToJudge;
}

/** Whether somebody runs the list: they may always write. */
export function runsTheList({ isCoordinator, listRole }: Sender): boolean {
  return isCoordinator || listRole !== "none";
}
