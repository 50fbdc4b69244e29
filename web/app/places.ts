import type { Pulse } from "@amigo/contract/house";
import { may, type Action, type HouseRole } from "@amigo/core/access/may";
import { t } from "../texts/app";

export interface Place {
  to: string;
  name: string;
  needs: Action;
  count?: "toApprove" | "causes" | "undelivered" | "faults" | "questions" | "held" | "requests";
  /** Who finds it in another place. */
  notFor?: HouseRole;
}

const PLACES: readonly Place[] = [
  { to: "/", name: t("app.board"), needs: "see the board" },
  { to: "/changes", name: t("app.changes"), needs: "see rounds", count: "causes" },
  { to: "/people", name: t("app.people"), needs: "see people", count: "questions" },
  { to: "/sources", name: t("app.sources"), needs: "see sources", count: "faults" },
  { to: "/forms", name: t("app.forms"), needs: "make forms", notFor: "coordinator" },
  { to: "/intakes", name: t("app.additions"), needs: "fill intakes", count: "toApprove" },
  { to: "/mail", name: t("app.mail"), needs: "see posts", count: "held" },
  { to: "/dates", name: t("app.dates"), needs: "see dates" },
  { to: "/reach", name: t("app.reach"), needs: "see people" },
  { to: "/house", name: t("app.settings"), needs: "see the house" },
  { to: "/journal", name: t("app.journal"), needs: "see the journal", notFor: "coordinator" },
  { to: "/accounts", name: t("app.accounts"), needs: "see accounts", notFor: "coordinator" },
  { to: "/", name: t("app.addRows"), needs: "add rows", notFor: "coordinator" },
];

export const ROLE_NAMES: Record<HouseRole, string> = {
  coordinator: t("app.coordinator"),
  "site coordinator": t("app.siteCoordinator"),
  staff: t("app.staff"),
  helper: t("app.helper"),
};

/** Returns the places that somebody of a role can open, in the order of the rail. */
export function placesOf(role: HouseRole): readonly Place[] {
  return PLACES.filter(({ needs, notFor }) => may(role, needs) && role !== notFor);
}

/** Returns how many things wait in a place. */
export function waitingIn({ count }: Place, pulse: Pulse | undefined): number {
  return count === undefined ? 0 : (pulse?.[count] ?? 0);
}
