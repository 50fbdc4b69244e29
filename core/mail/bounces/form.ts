import type { SplitMessage } from "../splitMessage";

/** What a returned mail or a refusal comes down to. */
export const BOUNCE_SORTS = [
  "no mailbox",
  "no domain",
  "full",
  "too large",
  "unwanted",
  "policy",
  "temporary",
  "not a bounce",
] as const;

export type BounceSort = (typeof BOUNCE_SORTS)[number];

/** A mail that came back to the return path of a copy, taken apart. */
export interface ReturnedMail {
  split: SplitMessage;
  returnPath: string;
  /** The address of the copy; undefined when it isn't known. A report about other addresses is ignored. */
  recipient?: string;
  subject: string;
  /** What a person would read of it, decoded. */
  text: string;
  /** The machine-readable part (RFC 3464), decoded; empty where there is none. */
  report: string;
}

/** What one form tells: the sort, and the words by which the other side gives its reason. */
export interface BounceRead {
  sort: BounceSort;
  words: string;
  /** Whether the mail has failed, also where the reason was for now: the sending system has given up. */
  gaveUp?: boolean;
}

/** One form in which mail comes back. To add one, add a file with one of these and name it in `sortBounce.ts`. */
export interface BounceForm {
  id: string;
  /** Undefined where the mail is not of this form. */
  read(mail: ReturnedMail): BounceRead | undefined;
}
