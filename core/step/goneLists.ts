import { placeKind } from "../facts/subjects";
import type { FactIndex } from "../facts/factIndex";
import { listKeyParts } from "../lists/listKey";
import type { Cause } from "./cause";
import { KEPT, type ListBook, type Members } from "./listMembers";
import type { Change } from "./change";

/** Takes whoever is left off the lists of classes that a cause has ended. */
export function emptyGone(
  cause: Cause,
  index: FactIndex,
  book: ListBook,
  members: Members,
): Change[] {
  const ended = new Set(
    cause.removes.flatMap(({ kind, subject }) =>
      kind === "cohort" && !index.cohorts.has(subject) ? [subject] : [],
    ),
  );
  if (ended.size === 0) return [];
  const changes: Change[] = [];
  for (const list of [...ended].flatMap((cohort) => [...book.ofPlace(cohort)])) {
    const addresses = members.get(list);
    if (addresses === undefined || book.byKey.get(list)?.open !== true) continue;
    for (const [address, people] of addresses) {
      const [person = KEPT] = people;
      if (people.has(KEPT)) continue;
      addresses.delete(address);
      changes.push({ list, kind: "leaves", address, instead: undefined, person });
    }
    book.remove(list);
  }
  return changes;
}

/** Whether a list is of a class, team or committee that is no more. */
export function isOfGone(list: string, index: FactIndex): boolean {
  const of = listKeyParts(list)?.of ?? "";
  const kind = placeKind(of);
  return (kind === "class" || kind === "team" || kind === "committee") && !index.cohorts.has(of);
}
