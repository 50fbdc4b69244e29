import type { Pulse } from "@amigo/contract/house";
import { may, type Action, type HouseRole } from "@amigo/core/access/may";

export interface Place {
  to: string;
  name: string;
  needs: Action;
  count?: "toApprove" | "causes" | "undelivered" | "faults" | "questions" | "held" | "requests";
  /** Who finds it in another place. */
  notFor?: HouseRole;
}

const PLACES: readonly Place[] = [
  { to: "/", name: "Board", needs: "see the board" },
  { to: "/changes", name: "Changes", needs: "see rounds", count: "causes" },
  { to: "/people", name: "People", needs: "see people", count: "questions" },
  { to: "/sources", name: "Sources", needs: "see sources", count: "faults" },
  { to: "/forms", name: "Forms", needs: "make forms", notFor: "coordinator" },
  { to: "/intakes", name: "Additions", needs: "fill intakes", count: "toApprove" },
  { to: "/mail", name: "Mail", needs: "see posts", count: "held" },
  { to: "/reach", name: "Reach", needs: "see people" },
  { to: "/house", name: "Settings", needs: "see the house" },
  { to: "/journal", name: "Journal", needs: "see the journal", notFor: "coordinator" },
  { to: "/accounts", name: "Accounts", needs: "see accounts", notFor: "coordinator" },
  { to: "/", name: "Add rows", needs: "add rows", notFor: "coordinator" },
];

export const ROLE_NAMES: Record<HouseRole, string> = {
  coordinator: "Coordinator",
  "site coordinator": "Site coordinator",
  staff: "Staff",
  helper: "Helper",
};

/** Returns the places that somebody of a role can open, in the order of the rail. */
export function placesOf(role: HouseRole): readonly Place[] {
  return PLACES.filter(({ needs, notFor }) => may(role, needs) && role !== notFor);
}

/** Returns how many things wait in a place. */
export function waitingIn({ count }: Place, pulse: Pulse | undefined): number {
  return count === undefined ? 0 : (pulse?.[count] ?? 0);
}
