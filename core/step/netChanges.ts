import type { Change } from "./change";

/** How many addresses join and leave lists, and are put in place of another; and how many lists that changes. */
export interface ChangeCounts {
  joins: number;
  leaves: number;
  replaced: number;
  lists: number;
}

const SEPARATOR = "\u0000";

/**
 * Returns what changes come to in the end. One cause can take an address off a list and another put it there for somebody else: the
 * list then stays as it is. What is counted and told of a round is this.
 *
 * @param changes in the order in which they are done
 */
export function netChanges(changes: readonly Change[]): Change[] {
  const moves = new Map<string, number>();
  const move = (list: string, address: string, by: number): void => {
    const place = `${list}${SEPARATOR}${address}`;
    moves.set(place, (moves.get(place) ?? 0) + by);
  };
  for (const { list, kind, address, instead } of changes) {
    move(list, address, kind === "leaves" ? -1 : 1);
    if (instead !== undefined) move(list, instead, -1);
  }
  // From the last to the first: of several changes of one address the last that still counts is the one that is told.
  const takes = (list: string, address: string, by: number): boolean => {
    const place = `${list}${SEPARATOR}${address}`;
    const left = moves.get(place) ?? 0;
    if (left * by <= 0) return false;
    moves.set(place, left - by);
    return true;
  };
  const net: Change[] = [];
  for (const change of [...changes].reverse()) {
    const { list, kind, address, instead } = change;
    if (instead === undefined) {
      if (takes(list, address, kind === "leaves" ? -1 : 1)) net.push(change);
      continue;
    }
    const [comes, goes] = [takes(list, address, 1), takes(list, instead, -1)];
    if (comes && goes) net.push(change);
    else if (comes) net.push({ ...change, kind: "joins", instead: undefined });
    else if (goes) net.push({ ...change, kind: "leaves", address: instead, instead: undefined });
  }
  return net.reverse();
}

/** Counts what changes come to in the end. */
export function countChanges(changes: readonly Change[]): ChangeCounts {
  const counts = { joins: 0, leaves: 0, replaced: 0, lists: 0 };
  const net = netChanges(changes);
  for (const { kind } of net) counts[kind]++;
  counts.lists = new Set(net.map(({ list }) => list)).size;
  return counts;
}

/** Counts how many join and leave each list in the end; a list that stays as it is isn't there. */
export function countByList(
  changes: readonly Change[],
): Map<string, { joins: number; leaves: number }> {
  const counts = new Map<string, { joins: number; leaves: number }>();
  for (const { list, kind } of netChanges(changes)) {
    const entry = counts.get(list) ?? { joins: 0, leaves: 0 };
    counts.set(list, entry);
    if (kind !== "leaves") entry.joins++;
    if (kind !== "joins") entry.leaves++;
  }
  return counts;
}
