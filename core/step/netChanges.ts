import type { Change } from "./change";

/** How many addresses join and leave lists, and are put in place of another; and how many lists that changes. */
export interface ChangeCounts {
  joins: number;
  leaves: number;
  replaced: number;
  lists: number;
}

/** What changes come to in the end. */
export interface ChangeSum {
  /** What is left of them, in their order. */
  net: Change[];
  counts: ChangeCounts;
  /** How many join and leave each list; a list that stays as it is isn't there. */
  byList: Map<string, { joins: number; leaves: number }>;
}

/** Adds changes up, in the order in which they are done. */
export function sumChanges(changes: readonly Change[]): ChangeSum {
  const net = netChanges(changes);
  const counts = { joins: 0, leaves: 0, replaced: 0, lists: 0 };
  const byList: ChangeSum["byList"] = new Map();
  for (const { list, kind } of net) {
    counts[kind]++;
    let entry = byList.get(list);
    if (entry === undefined) byList.set(list, (entry = { joins: 0, leaves: 0 }));
    if (kind !== "leaves") entry.joins++;
    if (kind !== "joins") entry.leaves++;
  }
  counts.lists = byList.size;
  return { net, counts, byList };
}

/**
 * Returns what changes come to in the end. One cause can take an address off a list and another put it there for somebody else: the
 * list then stays as it is. What is counted and told of a round is this.
 *
 * @param changes in the order in which they are done
 */
export function netChanges(changes: readonly Change[]): Change[] {
  /** How often more each address joins each list than it leaves it. */
  const moves = new Map<string, Map<string, number>>();
  const move = (list: string, address: string, by: number): void => {
    let onList = moves.get(list);
    if (onList === undefined) moves.set(list, (onList = new Map()));
    onList.set(address, (onList.get(address) ?? 0) + by);
  };
  for (const { list, kind, address, instead } of changes) {
    move(list, address, kind === "leaves" ? -1 : 1);
    if (instead !== undefined) move(list, instead, -1);
  }
  // From the last to the first: of several changes of one address the last that still counts is the one that is told.
  const takes = (list: string, address: string, by: number): boolean => {
    const onList = moves.get(list);
    const left = onList?.get(address) ?? 0;
    if (left * by <= 0) return false;
    onList?.set(address, left - by);
    return true;
  };
  const net: Change[] = [];
  for (let at = changes.length - 1; at >= 0; at--) {
    const change = changes[at];
    if (change === undefined) continue;
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
