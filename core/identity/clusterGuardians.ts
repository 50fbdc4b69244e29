import type { GuardianMention, RowRecord } from "../sheet/readRecords";
import { nameKey, sameName } from "./sameName";

/** One guardian as one row names them, for a student who is already known by id. */
export interface Mention extends GuardianMention {
  student: string;
  source: string;
  reading: string;
  record: RowRecord;
}

/** Mentions that are one person. */
export type Cluster = Mention[];

/**
 * Gathers the mentions of guardians into people. One address and one name are one person, on
 * however many rows; one address and two names are two. A mention without a working address joins
 * the person of that name who shares a student, or another guardian, with it. The same name on the
 * same student in two sources, or answered again in a form, is one person; twice in one sheet it is two.
 */
export function clusterGuardians(mentions: readonly Mention[]): Cluster[] {
  const clusters: Cluster[] = [];
  const byAddress = new Map<string, Cluster[]>();
  const loose: Mention[] = [];
  for (const mention of mentions) {
    if (mention.address === undefined) {
      loose.push(mention);
      continue;
    }
    const here = byAddress.get(mention.address) ?? [];
    byAddress.set(mention.address, here);
    const same = here.find((cluster) => cluster.some((other) => nameKey(other.name) === nameKey(mention.name)))
      ?? here.find((cluster) => cluster[0] !== undefined && sameName(cluster[0].name, mention.name));
    if (same !== undefined) same.push(mention);
    else {
      const cluster = [mention];
      here.push(cluster);
      clusters.push(cluster);
    }
  }
  return uniteOnStudents(placeLoose(clusters, loose));
}

function placeLoose(clusters: Cluster[], loose: readonly Mention[]): Cluster[] {
  const placed = [...clusters];
  const byStudent = groupByStudent(placed);
  for (const mention of loose) {
    const key = nameKey(mention.name);
    const students = new Set([mention.student, ...[...(byStudent.get(mention.student) ?? [])].flatMap((cluster) => cluster.map((other) => other.student))]);
    const around = new Set([...students].flatMap((student) => [...(byStudent.get(student) ?? [])]));
    const free = [...around].filter((cluster) => !cluster.some((other) => other.record === mention.record));
    const exact = free.filter((cluster) => cluster.some((other) => nameKey(other.name) === key));
    const candidates = exact.length > 0 ? exact : free.filter((cluster) => cluster.some((other) => nameKey(other.name) !== "" && sameName(other.name, mention.name)));
    const only = candidates.length === 1 && key !== "" ? candidates[0] : undefined;
    const cluster = only ?? [];
    cluster.push(mention);
    if (only === undefined) placed.push(cluster);
    const here = byStudent.get(mention.student) ?? new Set<Cluster>();
    byStudent.set(mention.student, here.add(cluster));
  }
  return placed;
}

/** Two people of one name on one student who do not stand apart are one person with two addresses. */
function uniteOnStudents(clusters: Cluster[]): Cluster[] {
  const gone = new Set<Cluster>();
  for (const here of groupByStudent(clusters).values()) {
    const list = [...here];
    for (let first = 0; first < list.length; first++) {
      for (let second = first + 1; second < list.length; second++) {
        const a = list[first];
        const b = list[second];
        if (a === undefined || b === undefined || gone.has(a) || gone.has(b)) continue;
        const named = a.find((mention) => nameKey(mention.name) !== "");
        const other = b.find((mention) => nameKey(mention.name) !== "");
        if (named === undefined || other === undefined || nameKey(named.name) !== nameKey(other.name)) continue;
        if (a.some((mention) => b.some((twin) => standApart(mention, twin)))) continue;
        a.push(...b);
        gone.add(b);
      }
    }
  }
  return clusters.filter((cluster) => !gone.has(cluster));
}

/** Two who stand in one sheet for one student are two people, unless it is somebody who answered a form again. */
function standApart(one: Mention, other: Mention): boolean {
  return one.student === other.student && one.reading === other.reading && (one.record === other.record || one.record.answered === "");
}

function groupByStudent(clusters: readonly Cluster[]): Map<string, Set<Cluster>> {
  const byStudent = new Map<string, Set<Cluster>>();
  for (const cluster of clusters) {
    for (const { student } of cluster) {
      const here = byStudent.get(student);
      if (here === undefined) byStudent.set(student, new Set([cluster]));
      else here.add(cluster);
    }
  }
  return byStudent;
}
