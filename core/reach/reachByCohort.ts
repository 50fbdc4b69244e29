import { inOrder } from "@amigo/language/inOrder";
import type { FactIndex } from "../facts/factIndex";
import { isShared, whenRenewed } from "../facts/indexFacts";
import type { FactDifference } from "../facts/factDifference";
import {
  countReached,
  isSameStopped,
  whoseReachCanDiffer,
  type Reached,
  type Stopped,
} from "./reach";

/** What is told of the students of a class, team or committee. */
export interface CohortReach extends Reached {
  /** Their levels, from the lowest. */
  levels: string[];
}

/** What was counted of an index, with the stopped addresses that it was counted with. */
interface Counted {
  stopped: Stopped;
  byCohort: ReadonlyMap<string, CohortReach>;
}

const COUNTED = new WeakMap<FactIndex, Counted>();

/**
 * Counts the students of each class, team and committee and those who can be reached, with their levels. For an index that nobody
 * changes any more it's counted once, and from what was counted of the index below only where something differs. Not to be changed.
 */
export function reachByCohort(
  index: FactIndex,
  stopped: Stopped,
): ReadonlyMap<string, CohortReach> {
  const known = COUNTED.get(index);
  if (known !== undefined && isSameStopped(known.stopped, stopped)) return known.byCohort;
  const byCohort = countAll(index, stopped);
  if (isShared(index)) COUNTED.set(index, { stopped, byCohort });
  return byCohort;
}

whenRenewed((below, index, difference) => {
  const known = COUNTED.get(below);
  if (known === undefined) return;
  const { stopped } = known;
  COUNTED.set(index, {
    stopped,
    byCohort: renewed(known.byCohort, { index, below, difference }, stopped),
  });
});

function countAll(index: FactIndex, stopped: Stopped): Map<string, CohortReach> {
  return new Map([...index.enrolled.keys()].map((key) => [key, countOf(key, index, stopped)]));
}

function countOf(key: string, index: FactIndex, stopped: Stopped): CohortReach {
  const students = [...(index.enrolled.get(key) ?? [])].flatMap((id) => index.people.get(id) ?? []);
  const levels = new Set(students.map(({ level }) => level).filter((level) => level !== ""));
  return { ...countReached(students, index, stopped), levels: [...levels].sort(inOrder) };
}

/** Counts anew where somebody differs: their own classes, and those of the students whom they are tied to, as they were and are. */
function renewed(
  counted: ReadonlyMap<string, CohortReach>,
  { index, below, difference }: { index: FactIndex; below: FactIndex; difference: FactDifference },
  stopped: Stopped,
): ReadonlyMap<string, CohortReach> {
  const touched = new Set<string>();
  for (const at of [below, index])
    for (const { cohorts } of whoseReachCanDiffer(at, difference))
      for (const key of cohorts) touched.add(key);
  if (touched.size === 0) return counted;
  const byCohort = new Map(counted);
  for (const key of touched)
    if (index.enrolled.has(key)) byCohort.set(key, countOf(key, index, stopped));
    else byCohort.delete(key);
  return byCohort;
}
