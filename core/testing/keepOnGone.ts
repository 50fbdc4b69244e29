import type { FactIndex } from "../facts/factIndex";
import { isOfGone } from "../step/goneLists";
import { addMember, KEPT, type ListBook, type Members } from "../step/listMembers";

/** Adds those who are always on a list of a class that is gone: they are still on it, and join nothing when the class comes back. */
export function keepOnGone(index: FactIndex, book: ListBook, members: Members): void {
  for (const [list, addresses] of index.kept) {
    if (book.byKey.has(list) || !isOfGone(list, index)) continue;
    for (const [address, { side }] of addresses)
      if (side === "on") addMember(members, list, address, KEPT);
  }
}
