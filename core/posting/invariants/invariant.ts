import type { Message } from "@amigo/language/message";
import type { ListKind, Rules } from "../rules/rule";

/** What an invariant looks at. */
export interface ListToCheck {
  kind: ListKind;
  rules: Rules;
  /** Whether the list has a lead with an account that can sign in. */
  hasLead: boolean;
  insideDomains: readonly string[];
}

/** Something that must hold between the rules of a list. To add one, add a file with one of these and name it in `allInvariants.ts`. */
export interface Invariant {
  id: string;
  /** As the house rules have it. */
  words: Message;
  /** Whether the house may do without it. */
  canBeOff: boolean;
  /** Whether a change that breaks it is refused; where not, it is told until somebody sees to it. */
  refuses: boolean;
  /** What is wrong, and what can be done; undefined where it holds. */
  check(list: ListToCheck): Message | undefined;
}
