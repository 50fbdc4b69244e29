import { nameKey, sameName } from "./sameName";
import type { GuardianMention, RowRecord } from "../sheet/rowRecord";

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
    const same =
      here.find((cluster) =>
        cluster.some((other) => nameKey(other.name) === nameKey(mention.name)),
      ) ??
      here.find((cluster) => cluster[0] !== undefined && sameName(cluster[0].name, mention.name));
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
    const students = new Set([
      mention.student,
      ...[...(byStudent.get(mention.student) ?? [])].flatMap((cluster) =>
        cluster.map((other) => other.student),
      ),
    ]);
    const around = new Set([...students].flatMap((student) => [...(byStudent.get(student) ?? [])]));
    const free = [...around].filter(
      (cluster) => !cluster.some((other) => other.record === mention.record),
    );
    const exact = free.filter((cluster) => cluster.some((other) => nameKey(other.name) === key));
    const candidates =
      exact.length > 0
        ? exact
        : free.filter((cluster) =>
            cluster.some(
              (other) => nameKey(other.name) !== "" && sameName(other.name, mention.name),
            ),
          );
    const only = candidates.length === 1 && key !== "" ? candidates[0] : undefined;
    const cluster = only ?? [];
    cluster.push(mention);
    if (only === undefined) placed.push(cluster);
    const here = byStudent.get(mention.student) ?? new Set<Cluster>();
    byStudent.set(mention.student, here.add(cluster));
  }
  return placed;
}

/**
 * Two people of one name on one student who do not stand apart are one person with two addresses. Where
 * several of that name could be meant, it is the one whose address looks most like the other.
 */
function uniteOnStudents(clusters: Cluster[]): Cluster[] {
  const gone = new Set<Cluster>();
  for (const here of groupByStudent(clusters).values()) {
    const list = [...here];
    for (const later of [...list].reverse()) {
      if (gone.has(later)) continue;
      const namesakes = list
        .slice(0, list.indexOf(later))
        .filter(
          (earlier) =>
            !gone.has(earlier) &&
            isNamesake(earlier, later) &&
            !earlier.some((mention) => later.some((twin) => standApart(mention, twin))),
        );
      const [same] = namesakes.sort((one, other) => likeness(other, later) - likeness(one, later));
      if (same === undefined) continue;
      same.push(...later);
      gone.add(later);
    }
  }
  return clusters.filter((cluster) => !gone.has(cluster));
}

function isNamesake(one: Cluster, other: Cluster): boolean {
  const keys = [one, other].map((cluster) =>
    cluster.map((mention) => nameKey(mention.name)).find((key) => key !== ""),
  );
  return keys[0] !== undefined && keys[0] === keys[1];
}

/** How much the addresses of two people look alike: the domain, and a mailbox that holds the other. */
function likeness(one: Cluster, other: Cluster): number {
  const scores = one.flatMap(({ address: a = "" }) =>
    other.map(({ address: b = "" }) => {
      const [leftBox = "", leftDomain] = a.split("@");
      const [rightBox = "", rightDomain] = b.split("@");
      const holds =
        leftBox !== "" &&
        rightBox !== "" &&
        (leftBox.includes(rightBox) || rightBox.includes(leftBox));
      return (holds ? 2 : 0) + (leftDomain === rightDomain ? 1 : 0);
    }),
  );
  return Math.max(0, ...scores);
}

/** Two who stand in one sheet for one student are two people, unless it is somebody who answered a form again. */
function standApart(one: Mention, other: Mention): boolean {
  return (
    one.student === other.student &&
    one.reading === other.reading &&
    (one.record === other.record || one.record.answered === "")
  );
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
