/** What an account is in the house. A lead's rights on single lists come on top. */
export const HOUSE_ROLES = ["coordinator", "site coordinator", "staff", "helper"] as const;

export type HouseRole = (typeof HOUSE_ROLES)[number];

/** Everything that somebody may be asked for. */
export type Action =
  | "see the board"
  | "see lists"
  | "write to lists"
  | "try an address"
  | "see posts"
  | "find"
  | "see who is signed in"
  | "see sources"
  | "read a source"
  | "see rounds"
  | "decide a round"
  | "see people"
  | "decide on people"
  | "export people"
  | "keep on lists"
  | "make forms"
  | "fill intakes"
  | "make intakes"
  | "change lists"
  | "keep private lists"
  | "see dates"
  | "make dates"
  | "ask for permission"
  | "see requests"
  | "decide requests"
  | "add rows"
  | "manage own account"
  | "see accounts"
  | "manage accounts"
  | "forget people"
  | "see the house"
  | "change the house"
  | "manage tokens"
  | "see the journal";

const EVERYBODY: readonly HouseRole[] = HOUSE_ROLES;
/** Everybody but helpers of single sources, who add rows and nothing else. */
const STAFF: readonly HouseRole[] = ["coordinator", "site coordinator", "staff"];
const BOTH_COORDINATORS: readonly HouseRole[] = ["coordinator", "site coordinator"];
const COORDINATORS: readonly HouseRole[] = ["coordinator"];

/**
 * The one table of who may do what. Where a role is named, what it sees is still narrowed: a site
 * coordinator to their site's lists, people and journal, staff to the lists that they lead or help with, a helper to
 * their sources. Sheets and rounds are the whole house's and so the coordinator's.
 */
export const MAY: Record<Action, readonly HouseRole[]> = {
  "see who is signed in": EVERYBODY,
  "manage own account": EVERYBODY,
  "add rows": ["coordinator", "helper"],
  "see the board": STAFF,
  "see lists": STAFF,
  "write to lists": STAFF,
  "try an address": STAFF,
  "see posts": STAFF,
  find: STAFF,
  "see sources": COORDINATORS,
  "read a source": COORDINATORS,
  "see rounds": COORDINATORS,
  "decide a round": COORDINATORS,
  "see people": BOTH_COORDINATORS,
  "decide on people": BOTH_COORDINATORS,
  "export people": COORDINATORS,
  "keep on lists": STAFF,
  "make forms": STAFF,
  "fill intakes": EVERYBODY,
  "make intakes": STAFF,
  "change lists": STAFF,
  "keep private lists": STAFF,
  "see dates": STAFF,
  "make dates": STAFF,
  "ask for permission": STAFF,
  "see requests": STAFF,
  "decide requests": BOTH_COORDINATORS,
  "see accounts": BOTH_COORDINATORS,
  "manage accounts": BOTH_COORDINATORS,
  "forget people": COORDINATORS,
  "see the house": COORDINATORS,
  "change the house": COORDINATORS,
  "manage tokens": COORDINATORS,
  "see the journal": BOTH_COORDINATORS,
};

/** Whether a house role may do something at all. */
export function may(role: HouseRole, action: Action): boolean {
  return MAY[action].includes(role);
}
