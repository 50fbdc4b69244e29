/** What an account is in the house. A lead's rights on single lists come on top. */
export const HOUSE_ROLES = ["coordinator", "site coordinator", "staff"] as const;

export type HouseRole = (typeof HOUSE_ROLES)[number];

/** Everything that somebody may be asked for. */
export type Action =
  | "see the board" | "see lists" | "write to lists" | "try an address" | "see posts" | "find" | "see who is signed in"
  | "see sources" | "read a source" | "see rounds" | "decide a round" | "see people" | "decide on people" | "keep on lists"
  | "change lists" | "keep private lists"
  | "see the house" | "change the house" | "manage tokens" | "see the journal";

const EVERYBODY: readonly HouseRole[] = HOUSE_ROLES;
const COORDINATORS: readonly HouseRole[] = ["coordinator"];

/**
 * The one table of who may do what. Where a role is named, what it sees is still narrowed: a site
 * coordinator to their site, staff to the lists that they lead or help with.
 */
export const MAY: Record<Action, readonly HouseRole[]> = {
  "see who is signed in": EVERYBODY,
  "see the board": EVERYBODY,
  "see lists": EVERYBODY,
  "write to lists": EVERYBODY,
  "try an address": EVERYBODY,
  "see posts": EVERYBODY,
  find: EVERYBODY,
  "see sources": COORDINATORS,
  "read a source": COORDINATORS,
  "see rounds": COORDINATORS,
  "decide a round": COORDINATORS,
  "see people": COORDINATORS,
  "decide on people": COORDINATORS,
  "keep on lists": ["coordinator", "site coordinator"],
  "change lists": COORDINATORS,
  "keep private lists": EVERYBODY,
  "see the house": COORDINATORS,
  "change the house": COORDINATORS,
  "manage tokens": COORDINATORS,
  "see the journal": COORDINATORS,
};

/** Whether a house role may do something at all. */
export function may(role: HouseRole, action: Action): boolean {
  return MAY[action].includes(role);
}
