import { placeKind } from "../facts/subjects";
import { columnSlot } from "../sheet/slot";
import { cohortKey, factKey, type Fact, type Facts, keyOf } from "../facts/fact";
import type { Origin } from "../facts/origin";
import { sharedIndex } from "../facts/indexFacts";
import type { FactIndex } from "../facts/factIndex";
import type { MeaningId } from "../sheet/meanings/meaning";
import { wholeName, type PersonName } from "../sheet/splitName";
import { fold } from "../text/fold";
import { clusterGuardians, type Cluster, type Mention } from "./clusterGuardians";
import { CohortVotes } from "./cohortVotes";
import { nameGuardians } from "./knownGuardians";
import { doubtedNumbers } from "./doubtedNumbers";
import { keepStanding } from "./keepStanding";
import { nameStudents } from "./nameStudents";
import { officeAddresses } from "./officeAddresses";
import { fitsStudent, followLinks, type PersonLink } from "./personLink";
import type { Question, SettledByHand } from "./question";
import {
  askAboutAddresses,
  askAboutClasses,
  askAboutGuardians,
  askAboutStudents,
  askAboutValues,
  askWhetherHere,
  type TellingOfClasses,
} from "./questions";
import { coachOf, staffInSheets } from "./staffInSheets";
import { standingAddresses, type StandingAddresses } from "./standingAddresses";
import { Tellings } from "./tellings";
import type { RowRecord } from "../sheet/rowRecord";
import type { SourceRecords } from "./sourceRecords";

/** What the house adds to what its sheets say. */
export interface DeriveSettings {
  /** How a student's inside address is made, such as `{number}@copperwheel.example`; empty for not at all. */
  studentAddress: string;
  /** Who is one person with whom, and who is not, as people have said. */
  links?: readonly PersonLink[];
  /** What people have settled by hand. */
  settled?: readonly SettledByHand[];
}

/** What is true of people and cohorts now, and what only a person can tell. */
export interface Derived {
  facts: Facts;
  questions: Question[];
  /** The student of each row; a row that is asked about has none. */
  students: ReadonlyMap<RowRecord, string>;
}

/**
 * Derives from the latest readings of all sources what is true of people and cohorts now. Where sources
 * disagree, `PRECEDENCE` decides; where it can not, it is a question, and the oldest source holds meanwhile.
 *
 * @param sources oldest first
 * @param stand   the facts as they stood, by which people keep their ids
 */
export function deriveFacts(
  sources: readonly SourceRecords[],
  stand: Facts,
  settings: DeriveSettings,
): Derived {
  const { links = [], settled = [] } = settings;
  const known = sharedIndex(stand);
  const facts = new Map<string, Fact>();
  const put = (fact: Fact): void => {
    const key = factKey(fact);
    if (!facts.has(key)) facts.set(key, fact);
  };
  const rows = sources.flatMap(({ source, reading, records }, place) =>
    records.map((record) => ({ source, reading, record, place })),
  );
  const sourceOf = new Map(rows.map(({ record, source }) => [record, source]));
  const students = nameStudents(
    rows.map(({ record }) => record),
    known,
    links,
    doubtedNumbers(sources),
    (record) => sourceOf.get(record) ?? "",
  );
  const numberOf = (record: RowRecord): string =>
    students.numberless.has(record) ? "" : record.number;
  const votes = new CohortVotes();
  const told = new Tellings();
  const classes = new Map<string, TellingOfClasses[]>();
  /** Classes that only a source names which is not believed, for somebody who says otherwise. */
  const spare = new Map<string, Fact>();
  const mentions: Mention[] = [];
  const firstRows = new Map<string, RowRecord>();

  const strangers = answersOfStrangers(rows, students.ids, links);
  for (const { source, reading, record, place } of rows) {
    const subject = students.ids.get(record);
    if (subject === undefined || strangers.all.has(record)) continue;
    const at = originIn(source, reading, record);
    const number = numberOf(record);
    firstRows.set(subject, firstRows.get(subject) ?? record);
    put({ subject, kind: "student", ref: "", value: "", origin: at("student.number") });
    told.tell(subject, "name", {
      value: record.name,
      origin: at("student.surname"),
      answered: record.answered,
      place,
      loose: record.answered !== "" || number === "",
    });
    if (number !== "")
      put({ subject, kind: "number", ref: "", value: number, origin: at("student.number") });
    if (record.level !== "")
      told.tell(subject, "level", {
        value: record.level,
        origin: at("student.level"),
        answered: record.answered,
        place,
      });
    if (record.site !== "")
      told.tell(subject, "site", {
        value: record.site,
        origin: at("site"),
        answered: record.answered,
        place,
      });
    for (const { column, slot, value } of record.details ?? [])
      put({ subject, kind: "detail", ref: column, value, origin: at("detail", slot) });
    if (record.address !== undefined)
      put({
        subject,
        kind: "address",
        ref: record.address,
        value: "",
        origin: at("student.address"),
      });
    if (number !== "" && settings.studentAddress !== "") {
      const address = settings.studentAddress.replace("{number}", number.toLowerCase());
      put({
        subject,
        kind: "address",
        ref: address,
        value: "",
        origin: { from: "rule", rule: "student-address" },
      });
    }
    for (const [kind, names, meaning] of [
      ["class", record.classes, "classes"],
      ["team", record.teams, "teams"],
    ] as const) {
      if (names.length === 0) continue;
      const teller = `${subject} ${kind}`;
      const tellings = classes.get(teller) ?? [];
      if (tellings.length === 0) classes.set(teller, tellings);
      let foundTelling = tellings.find((telling) => telling.source === source);
      if (foundTelling === undefined) {
        foundTelling = { subject, kind, source, origin: at(meaning), names: new Map() };
        tellings.push(foundTelling);
      }
      for (const name of names)
        if (!foundTelling.names.has(fold(name))) foundTelling.names.set(fold(name), name);
      if (tellings[0] !== foundTelling) {
        for (const name of names)
          spare.set(cohortKey(kind, fold(name)), {
            subject: cohortKey(kind, fold(name)),
            kind: "cohort",
            ref: "",
            value: { name, kind, site: record.site, coach: coachOf(record) },
            origin: at(meaning),
          });
        continue;
      }
      names.forEach((name, position) => {
        const key = cohortKey(kind, fold(name));
        votes.cast(
          key,
          kind,
          name,
          record,
          position === 0 ? (names.length === 1 ? 5 : 1) : 0,
          at(meaning),
        );
        put({ subject, kind: "enrolment", ref: key, value: "", origin: at(meaning) });
      });
    }
    for (const guardian of record.guardians)
      mentions.push({ ...guardian, student: subject, source, reading, record });
  }

  for (const fact of told.settle()) put(fact);
  for (const fact of votes.count()) put(fact);
  for (const fact of staffInSheets(
    rows.map(({ source, reading, record }) => ({ record, at: originIn(source, reading, record) })),
    known,
  ))
    put(fact);
  const office = officeAddresses(mentions, firstRows, links);
  const clusters = followLinks(clusterGuardians(withoutOffice(mentions, office.set)), links);
  const guardians = nameGuardians(clusters, known);
  const standing = new Map<string, StandingAddresses>();
  for (const cluster of clusters) {
    const subject = guardians.get(cluster) ?? "";
    const addresses = standingAddresses(cluster);
    if (addresses.holds.length + addresses.disputed.length > 1) standing.set(subject, addresses);
    for (const fact of guardianFacts(subject, cluster, addresses, known)) put(fact);
  }
  keepStanding(
    facts,
    sources,
    known,
    stand,
    new Set(students.asked.flatMap(({ candidates }) => candidates.map(({ id }) => id))),
  );
  const handled = settleByHand(facts, settled, spare);
  const index = (): FactIndex => sharedIndex(handled);
  const questions = [
    ...askAboutStudents(students.asked, rows, handled),
    ...askWhetherHere(strangers.asked, rows),
    ...office.questions,
    ...askAboutGuardians(clusters, links, index),
    ...askAboutAddresses(standing, settled, index),
    ...askAboutValues(told.disputed(), settled, index),
    ...askAboutClasses(classes, settled, index),
  ];
  return { facts: handled, questions, students: students.ids };
}

/**
 * A form tells more about students whom a roster has; alone it makes nobody one, for families go on answering after
 * they have left. Where there is no roster at all, the form is believed.
 */
function answersOfStrangers(
  rows: readonly { record: RowRecord }[],
  ids: ReadonlyMap<RowRecord, string>,
  links: readonly PersonLink[],
): { all: ReadonlySet<RowRecord>; asked: RowRecord[] } {
  const enrolled = new Set<string>();
  for (const { record } of rows) if (record.answered === "") enrolled.add(ids.get(record) ?? "");
  const all = new Set<RowRecord>();
  const asked: RowRecord[] = [];
  if (enrolled.size === 0) return { all, asked };
  for (const { record } of rows) {
    const id = ids.get(record);
    if (record.answered === "" || id === undefined || enrolled.has(id)) continue;
    const said = [...links]
      .reverse()
      .find(
        ({ says, left }) => (says === "here" || says === "gone") && fitsStudent(record, left),
      )?.says;
    if (said === "here") continue;
    all.add(record);
    if (said === undefined) asked.push(record);
  }
  return { all, asked };
}

/** Mentions of guardians without the addresses that are a teacher's or the office's; who has nothing else is nobody. */
function withoutOffice(mentions: readonly Mention[], office: ReadonlySet<string>): Mention[] {
  if (office.size === 0) return [...mentions];
  return mentions.flatMap((mention) =>
    mention.address === undefined || !office.has(mention.address)
      ? [mention]
      : wholeName(mention.name) === ""
        ? []
        : [{ ...mention, address: undefined }],
  );
}

/** Where a cell of a row stands, and the correction by which it was read. */
function originIn(
  source: string,
  reading: string,
  record: RowRecord,
): (meaning: MeaningId, slot?: number) => Origin {
  return (meaning, written = 0) => {
    // Of a row with several children, the column of this one.
    const slot = written === 0 ? (record.slots?.get(meaning) ?? 0) : written;
    const origin: Origin = {
      from: "row",
      source,
      reading,
      sheet: record.sheet,
      row: record.row,
      meaning,
      slot,
    };
    const corrected = record.corrected?.get(`${meaning} ${columnSlot(slot)}`);
    return corrected === undefined ? origin : { ...origin, corrected };
  };
}

/** What was said by hand takes the place of what the sources say, for people who are still there. */
function settleByHand(
  facts: Map<string, Fact>,
  settled: readonly SettledByHand[],
  spare: ReadonlyMap<string, Fact>,
): Map<string, Fact> {
  const here = settled.filter(
    ({ subject }) => facts.has(keyOf(subject, "student")) || facts.has(keyOf(subject, "guardian")),
  );
  if (here.length === 0) return facts;
  const replaced = new Set(here.map(({ subject, kind }) => `${subject}|${kind}`));
  for (const [key, fact] of facts)
    if (
      replaced.has(`${fact.subject}|${fact.kind}`) &&
      (fact.kind !== "enrolment" || placeKind(fact.ref) === "class")
    )
      facts.delete(key);
  for (const { subject, kind, facts: settledFacts, by, at } of here) {
    for (const { ref, value } of settledFacts) {
      const fact = { subject, kind, ref, value, origin: { from: "hand", by, at } } as Fact;
      facts.set(factKey(fact), fact);
      const cohort = spare.get(ref);
      if (kind === "enrolment" && cohort !== undefined && !facts.has(factKey(cohort)))
        facts.set(factKey(cohort), cohort);
    }
  }
  return facts;
}

function guardianFacts(
  subject: string,
  cluster: Cluster,
  { holds }: StandingAddresses,
  known: FactIndex,
): Fact[] {
  const first = cluster[0];
  if (first === undefined) return [];
  const at = (mention: Mention, meaning: MeaningId): Origin =>
    originIn(mention.source, mention.reading, mention.record)(meaning, mention.slot);
  const named =
    cluster.find(({ name }) => wholeName(name) !== "" && !wholeName(name).includes("?")) ?? first;
  const facts: Fact[] = [
    { subject, kind: "guardian", ref: "", value: "", origin: at(first, "guardian.name") },
    {
      subject,
      kind: "name",
      ref: "",
      value: fullestName(cluster, known.people.get(subject)),
      origin: at(named, "guardian.name"),
    },
  ];
  for (const mention of holds)
    if (mention.address !== undefined)
      facts.push({
        subject,
        kind: "address",
        ref: mention.address,
        value: "",
        origin: at(mention, "guardian.address"),
      });
  for (const mention of cluster)
    facts.push({
      subject,
      kind: "tie",
      ref: mention.student,
      value: mention.relationship,
      origin: at(mention, "guardian.name"),
    });
  return facts;
}

/** The name as it stood, where it is still written so; else the one written most often, among equals the first. Names with lost letters count last. */
function fullestName(cluster: Cluster, stood: PersonName | undefined): PersonName {
  const kept =
    stood === undefined || wholeName(stood).includes("?")
      ? undefined
      : cluster.find(({ name }) => name.given === stood.given && name.family === stood.family);
  if (kept !== undefined) return kept.name;
  const counts = new Map<string, { name: PersonName; count: number }>();
  for (const { name } of cluster) {
    const text = wholeName(name);
    if (text === "") continue;
    const entry = counts.get(text) ?? { name, count: text.includes("?") ? -1000 : 0 };
    entry.count++;
    counts.set(text, entry);
  }
  return (
    [...counts.values()].sort((a, b) => b.count - a.count)[0]?.name ?? { given: "", family: "" }
  );
}
