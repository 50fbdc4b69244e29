import type { Audience } from "../audience/audience";
import type { ListKind } from "./rules/rule";

/** What sort of people an audience is of, as far as the house's rules tell them apart. */
export function listKind(audience: Audience): ListKind {
  switch (audience.op) {
    case "group": return audience.who === "students" ? "students" : "staff";
    case "guardians": return "guardians";
    case "person": return "other";
    case "union": { const left = listKind(audience.left); return left === listKind(audience.right) ? left : "other"; }
    case "both": case "except": return listKind(audience.left);
  }
}
