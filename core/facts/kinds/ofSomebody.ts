import type { Need } from "./kind";

/** The kinds of facts by which somebody is somebody here. */
const ROLES = ["student", "guardian", "staff"] as const;

/** Returns the need for whoever a fact is about. */
export function ofSomebody({ subject }: { subject: string }): Need[] {
  return [{ subject, kinds: ROLES }];
}
