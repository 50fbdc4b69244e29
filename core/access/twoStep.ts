import type { HouseRole } from "./may";

/** Whose sign-in needs a second step. */
export const TWO_STEP_FOR = ["nobody", "coordinators", "everybody"] as const;

export type TwoStepFor = (typeof TWO_STEP_FOR)[number];

/** Whether the school's setting asks an account of a role for a second step. */
export function needsTwoSteps(wanted: TwoStepFor, role: HouseRole): boolean {
  return (
    wanted === "everybody" ||
    (wanted === "coordinators" && (role === "coordinator" || role === "site coordinator"))
  );
}
