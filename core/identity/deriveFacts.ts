import { cohortKey, factKey, type CohortKind, type CohortValue, type Fact, type Facts, type Origin } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import type { MeaningId } from "../sheet/meanings/meaning";
import type { RowRecord } from "../sheet/readRecords";
import { wholeName, type PersonName } from "../sheet/splitName";
import { fold } from "../text/fold";
import { clusterGuardians, type Cluster, type Mention } from "./clusterGuardians";
import { nameGuardians } from "./knownGuardians";
import { nameStudents } from "./nameStudents";

/** The latest reading of one source, taken apart into records. Sources stand in order of precedence. */
export interface SourceRecords {
  source: string;
  reading: string;
  records: readonly RowRecord[];
}

/** What the house adds to what its sheets say. */
export interface DeriveSettings {
  /** How a student's inside address is made, such as `{number}@copperwheel.example`; empty for not at all. */
  studentAddress: string;
}

/**
 * Derives from the latest readings of all sources what is true of people and cohorts now.
 *
 * @param sources in order of precedence: where two say different things of a student, the first holds
 * @param stand   the facts as they stood, by which people keep their ids
 */
export function deriveFacts(sources: readonly SourceRecords[], stand: Facts, settings: DeriveSettings): Facts {
  const known = indexFacts(stand);
  const facts = new Map<string, Fact>();
  const put = (fact: Fact): void => {
    const key = factKey(fact);
    if (!facts.has(key)) facts.set(key, fact);
  };
  const rows = sources.flatMap(({ source, reading, records }) => records.map((record) => ({ source, reading, record })));
  const students = nameStudents(rows.map(({ record }) => record), known);
  const votes = new CohortVotes();
  const enrolledBy = new Map<string, string>();
  const mentions: Mention[] = [];

  for (const { source, reading, record } of rows) {
    const subject = students.get(record) ?? "";
    const at = (meaning: MeaningId, slot = 0): Origin => ({ from: "row", source, reading, sheet: record.sheet, row: record.row, meaning, slot });
    put({ subject, kind: "student", ref: "", value: "", origin: at("student.number") });
    put({ subject, kind: "name", ref: "", value: record.name, origin: at("student.surname") });
    if (record.number !== "") put({ subject, kind: "number", ref: "", value: record.number, origin: at("student.number") });
    if (record.level !== "") put({ subject, kind: "level", ref: "", value: record.level, origin: at("student.level") });
    if (record.site !== "") put({ subject, kind: "site", ref: "", value: record.site, origin: at("site") });
    if (record.address !== undefined) put({ subject, kind: "address", ref: record.address, value: "", origin: at("student.address") });
    if (record.number !== "" && settings.studentAddress !== "") {
      const address = settings.studentAddress.replace("{number}", record.number.toLowerCase());
      put({ subject, kind: "address", ref: address, value: "", origin: { from: "rule", rule: "student-address" } });
    }
    const enrol = (kind: CohortKind, names: readonly string[], meaning: MeaningId): void => {
      const teller = `${subject} ${kind}`;
      const first = enrolledBy.get(teller) ?? source;
      if (names.length === 0 || first !== source) return;
      enrolledBy.set(teller, first);
      names.forEach((name, position) => {
        const key = cohortKey(kind, fold(name));
        votes.cast(key, kind, name, record, position === 0 ? (names.length === 1 ? 5 : 1) : 0, at(meaning));
        put({ subject, kind: "enrolment", ref: key, value: "", origin: at(meaning) });
      });
    };
    enrol("class", record.classes, "classes");
    enrol("team", record.teams, "teams");
    for (const guardian of record.guardians) mentions.push({ ...guardian, student: subject, source, reading, record });
  }

  for (const fact of votes.count()) put(fact);
  const clusters = clusterGuardians(mentions);
  const guardians = nameGuardians(clusters, known);
  for (const cluster of clusters) for (const fact of guardianFacts(guardians.get(cluster) ?? "", cluster)) put(fact);
  return facts;
}

function guardianFacts(subject: string, cluster: Cluster): Fact[] {
  const first = cluster[0];
  if (first === undefined) return [];
  const at = (mention: Mention, meaning: MeaningId): Origin => ({ from: "row", source: mention.source, reading: mention.reading, sheet: mention.record.sheet, row: mention.record.row, meaning, slot: mention.slot });
  const named = cluster.find(({ name }) => wholeName(name) !== "" && !wholeName(name).includes("?")) ?? first;
  const facts: Fact[] = [
    { subject, kind: "guardian", ref: "", value: "", origin: at(first, "guardian.name") },
    { subject, kind: "name", ref: "", value: fullestName(cluster), origin: at(named, "guardian.name") },
  ];
  for (const mention of standingAddresses(cluster)) if (mention.address !== undefined) facts.push({ subject, kind: "address", ref: mention.address, value: "", origin: at(mention, "guardian.address") });
  for (const mention of cluster) facts.push({ subject, kind: "tie", ref: mention.student, value: mention.relationship, origin: at(mention, "guardian.name") });
  return facts;
}

/**
 * The addresses that stand for a guardian. What they answered in a form comes before what the roster has,
 * and of several answers for one child the newest; answers for different children may differ, and then both
 * stand, for it can not be told which is meant.
 */
function standingAddresses(cluster: Cluster): Mention[] {
  const reachable = cluster.filter(({ address }) => address !== undefined);
  const newest = new Map<string, Mention>();
  for (const mention of reachable) {
    const before = newest.get(mention.student);
    if (mention.record.answered !== "" && (before === undefined || mention.record.answered > before.record.answered)) newest.set(mention.student, mention);
  }
  return newest.size > 0 ? [...newest.values()] : reachable.slice(0, 1);
}

/** The name written most often; among equals the first. Names with lost letters count last. */
function fullestName(cluster: Cluster): PersonName {
  const counts = new Map<string, { name: PersonName; count: number }>();
  for (const { name } of cluster) {
    const text = wholeName(name);
    if (text === "") continue;
    const entry = counts.get(text) ?? { name, count: text.includes("?") ? -1000 : 0 };
    entry.count++;
    counts.set(text, entry);
  }
  return [...counts.values()].sort((a, b) => b.count - a.count)[0]?.name ?? { given: "", family: "" };
}

/** Settles by majority what a cohort is called, where it is and who coaches it. */
class CohortVotes {
  private readonly cohorts = new Map<string, { kind: CohortKind; names: Tally; sites: Tally; coaches: Tally; origin: Origin }>();

  /** Casts one row's vote. A row that names only this cohort tells most about its site and coach. */
  cast(key: string, kind: CohortKind, name: string, record: RowRecord, weight: number, origin: Origin): void {
    const cohort = this.cohorts.get(key) ?? { kind, names: new Map(), sites: new Map(), coaches: new Map(), origin };
    this.cohorts.set(key, cohort);
    tally(cohort.names, name, 1);
    if (record.site !== "") tally(cohort.sites, record.site, weight);
    if (record.coach !== "") tally(cohort.coaches, record.coach, weight);
  }

  count(): Fact[] {
    return [...this.cohorts].map(([subject, { kind, names, sites, coaches, origin }]) => {
      const value: CohortValue = { name: most(names), kind, site: most(sites), coach: most(coaches) };
      return { subject, kind: "cohort", ref: "", value, origin };
    });
  }
}

type Tally = Map<string, number>;

function tally(counts: Tally, value: string, weight: number): void {
  counts.set(value, (counts.get(value) ?? 0) + weight);
}

function most(counts: Tally): string {
  return [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? "";
}
