import type { Audience } from "../audience/audience";
import type { ListKind } from "./rules/rule";

/** What sort of people an audience is of, as far as the house's rules tell them apart. */
export function listKind(audience: Audience): ListKind {
  switch (audience.op) {
    case "group":
      return audience.who === "students" ? "students" : "staff";
    case "guardians":
      return "guardians";
    case "person":
      return "other";
    case "union":
      return together(listKind(audience.left), listKind(audience.right));
    case "both":
    case "except":
      return listKind(audience.left);
  }
}

/** Guardians with their children's coaches are still a list of guardians; anything else that is mixed is none of them. */
function together(left: ListKind, right: ListKind): ListKind {
  if (left === right) return left;
  const kinds = [left, right];
  return kinds.includes("guardians") && kinds.includes("staff") ? "guardians" : "other";
}
