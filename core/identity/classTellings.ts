import { cohortKey, type Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import type { RowRecord } from "../sheet/rowRecord";
import { fold } from "../text/fold";
import { CohortVotes } from "./cohortVotes";
import type { TellingOfClasses } from "./questions/aboutClasses";
import { coachOf } from "./staffInSheets";

/** How strongly the only class of a row speaks for what is said of the class, and the first of several. */
const ONLY = 5;
const FIRST = 1;

/** What the rows of all sources say about who is in which class and team. The oldest source that speaks of somebody holds. */
export class ClassTellings {
  /** By student and kind: what each source says. */
  readonly byStudent = new Map<string, TellingOfClasses[]>();
  /** Classes that only a source names which isn't believed, for somebody who says otherwise. */
  readonly spare = new Map<string, Fact>();
  private readonly votes = new CohortVotes();

  /** Takes what one row says; returns the facts that hold by it. */
  tell(
    subject: string,
    source: string,
    record: RowRecord,
    at: (meaning: "classes" | "teams") => Origin,
  ): Fact[] {
    return [
      ...this.tellKind(
        subject,
        source,
        record,
        { kind: "class", names: record.classes },
        at("classes"),
      ),
      ...this.tellKind(subject, source, record, { kind: "team", names: record.teams }, at("teams")),
    ];
  }

  /** Returns the classes and teams that there are, each as most of its rows have it. */
  cohorts(): Fact[] {
    return [...this.votes.count()];
  }

  private tellKind(
    subject: string,
    source: string,
    record: RowRecord,
    { kind, names }: { kind: "class" | "team"; names: readonly string[] },
    origin: Origin,
  ): Fact[] {
    if (names.length === 0) return [];
    const tellings = this.byStudent.get(`${subject} ${kind}`) ?? [];
    if (tellings.length === 0) this.byStudent.set(`${subject} ${kind}`, tellings);
    let telling = tellings.find((other) => other.source === source);
    if (telling === undefined) {
      telling = { subject, kind, source, origin, names: new Map() };
      tellings.push(telling);
    }
    for (const name of names)
      if (!telling.names.has(fold(name))) telling.names.set(fold(name), name);
    if (tellings[0] !== telling) {
      for (const name of names)
        this.spare.set(cohortKey(kind, fold(name)), spareCohort(kind, name, record, origin));
      return [];
    }
    return names.map((name, position): Fact => {
      const key = cohortKey(kind, fold(name));
      const weight = position > 0 ? 0 : names.length === 1 ? ONLY : FIRST;
      this.votes.cast(key, kind, name, record, weight, origin);
      return { subject, kind: "enrolment", ref: key, value: "", origin };
    });
  }
}

function spareCohort(
  kind: "class" | "team",
  name: string,
  record: RowRecord,
  origin: Origin,
): Fact {
  return {
    subject: cohortKey(kind, fold(name)),
    kind: "cohort",
    ref: "",
    value: { name, kind, site: record.site, coach: coachOf(record) },
    origin,
  };
}
