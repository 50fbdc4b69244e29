import { message } from "@amigo/language/message";
import type { Fact } from "../../facts/fact";
import { nameOf, type FactIndex, type Person } from "../../facts/factIndex";
import type { Cause } from "../cause";

/** A part of the keys by which decisions are remembered, so it stays as it is. */
const STAFF_KEYS = {
  new: "is on the staff now",
  gone: "is no longer on the staff",
  changed: "is known otherwise on the staff",
} as const;

/** Somebody came to the staff, left it, or is reached or placed otherwise. */
export function staffCauses(
  person: Person,
  adds: Fact[],
  removes: Fact[],
  was: FactIndex,
  is: FactIndex,
): Cause[] {
  if (adds.length + removes.length === 0) return [];
  const name = nameOf(person);
  const what = !was.people.has(person.id) ? "new" : !is.people.has(person.id) ? "gone" : "changed";
  return [
    {
      key: `staff ${person.id} ${STAFF_KEYS[what]} ${adds.map(({ ref }) => ref).join(" ")}`,
      kind: "staff",
      subject: person.id,
      title: name,
      detail: message("step.staff", { what }),
      sentence: message("step.staffSentence", { name, what }),
      group: "",
      adds,
      removes,
    },
  ];
}
