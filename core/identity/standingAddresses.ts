import { columnSlot } from "../sheet/slot";
import type { Cluster, Mention } from "./clusterGuardians";

/** The addresses of a guardian: which hold, and which others a source of the same rank gives. */
export interface StandingAddresses {
  holds: Mention[];
  /** Mentions with further addresses that precedence can't put aside. */
  disputed: Mention[];
}

/**
 * The addresses that stand for a guardian, by precedence: a corrected cell, then what they answered in a form,
 * of several answers for one child the newest, then the roster. Answers for different children may differ, and
 * then both stand, for it can't be told which is meant; the same goes for the rows of somebody whom people have
 * joined. Of two rosters the older source's stands.
 */
export function standingAddresses(cluster: Cluster): StandingAddresses {
  const reachable = cluster.filter(({ address }) => address !== undefined);
  if (reachable.length < 2) return { holds: reachable, disputed: [] };
  const corrected = reachable.filter(
    ({ slot, record }) => record.corrected?.has(`guardian.address ${columnSlot(slot)}`) === true,
  );
  if (corrected.length > 0) return { holds: distinct(corrected), disputed: [] };
  const newest = new Map<string, Mention>();
  for (const mention of reachable) {
    const before = newest.get(mention.student);
    if (
      mention.record.answered !== "" &&
      (before === undefined || mention.record.answered > before.record.answered)
    )
      newest.set(mention.student, mention);
  }
  if (newest.size > 0) return { holds: distinct([...newest.values()]), disputed: [] };
  const [first] = reachable;
  if (first === undefined) return { holds: [], disputed: [] };
  const known = new Set(
    reachable.filter(({ source }) => source === first.source).map(({ address }) => address),
  );
  return {
    holds: distinct(reachable.filter(({ source }) => source === first.source)),
    disputed: distinct(
      reachable.filter(({ address, source }) => source !== first.source && !known.has(address)),
    ),
  };
}

function distinct(mentions: readonly Mention[]): Mention[] {
  return [
    ...new Map([...mentions].reverse().map((mention) => [mention.address, mention])).values(),
  ].reverse();
}
