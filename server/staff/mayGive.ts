import type { HouseRole } from "@amigo/core/access/may";
import type { Caller } from "../callers/caller";

/** Whether somebody may give or change a role: a coordinator every one; a site coordinator the staff and helpers of their site. */
export function mayGive(caller: Caller, role: HouseRole, siteId: number | null): boolean {
  return (
    caller.role === "coordinator" ||
    (caller.role === "site coordinator" &&
      role === "staff" &&
      siteId !== null &&
      siteId === caller.siteId)
  );
}
