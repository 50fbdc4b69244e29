import type { Message } from "@amigo/language/message";
import { archiveOutside } from "./archiveOutside";
import type { Invariant, ListToCheck } from "./invariant";
import { leadSignsIn } from "./leadSignsIn";
import { outsideUnseen } from "./outsideUnseen";
import { repliesGoSomewhere } from "./repliesGoSomewhere";
import { studentsNoOutside } from "./studentsNoOutside";

export const ALL_INVARIANTS: readonly Invariant[] = [
  outsideUnseen,
  studentsNoOutside,
  archiveOutside,
  repliesGoSomewhere,
  leadSignsIn,
];

/** What is wrong between the rules of a list: the invariants that it breaks. `off` are those that the house does without. */
export function brokenInvariants(
  list: ListToCheck,
  off: ReadonlySet<string>,
): { invariant: Invariant; sentence: Message }[] {
  return ALL_INVARIANTS.flatMap((invariant) => {
    const sentence =
      invariant.canBeOff && off.has(invariant.id) ? undefined : invariant.check(list);
    return sentence === undefined ? [] : [{ invariant, sentence }];
  });
}
