import { each, message, type Message } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";
import { readsLike } from "../text/sameLooks";

/** What the house knows about an address. */
export interface KnownAddress {
  /** The name of the account with this address; undefined where it is nobody's. */
  account: string | undefined;
  /** The names of the people with this address. */
  people: readonly string[];
}

/** The name under which a mail goes on, and any doubt about the name that came with it. */
export interface ShownName {
  /** Empty where the address alone is shown. */
  name: Message | string;
  /** Why the name it came with isn't shown; undefined where it is, or where it is the house's own for the same person. */
  doubt: Message | undefined;
}

/** A name that stands for somebody whom people obey: a coordinator's, a lead's, the house's own. */
export interface GuardedName {
  name: string;
  is: "coordinator" | "lead" | "house";
}

/** Signs that nobody sees, by which a name could be hidden or turned round: soft hyphens, spaces of no width, marks of direction. */
const UNSEEN = /[\u00ad\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/gu;

const ADDRESS = /[^\s<>"'(),;:]@[^\s<>"'(),;:]/;

/**
 * Returns the name under which a writer is shown. For an address that the house knows it is the house's name for it,
 * whatever the mail says. Another address's name isn't shown where it holds an address, or reads like that of somebody
 * who runs the lists.
 */
export function shownName(
  written: string,
  { account, people }: KnownAddress,
  guarded: readonly GuardedName[],
): ShownName {
  const name = oneHeaderLine(written.normalize("NFC").replace(UNSEEN, ""));
  if (account !== undefined) return { name: account, doubt: undefined };
  if (people.length > 0)
    return {
      name:
        people.find((known) => readsLike(name, known)) ??
        (people.length === 1 ? (people[0] ?? "") : each([...people])),
      doubt: undefined,
    };
  // Signs of full width are read as those that they stand for.
  if (ADDRESS.test(name.normalize("NFKC")))
    return { name: "", doubt: message("mail.nameHoldsAnAddress", { name }) };
  const taken = guarded.find((one) => readsLike(name, one.name));
  return taken === undefined
    ? { name, doubt: undefined }
    : { name: "", doubt: message("mail.nameIsOf", { name, is: taken.is, known: taken.name }) };
}
