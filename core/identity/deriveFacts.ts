import { ClassTellings } from "./classTellings";
import { studentFacts, tellStudent } from "./studentFacts";
import { factKey, type Fact, type Facts } from "../facts/fact";
import { sharedIndex } from "../facts/indexFacts";
import type { FactIndex } from "../facts/factIndex";
import { wholeName } from "../sheet/splitName";
import { clusterGuardians, type Mention } from "./clusterGuardians";
import { nameGuardians } from "./knownGuardians";
import { doubtedNumbers } from "./doubtedNumbers";
import { keepStanding } from "./keepStanding";
import { nameStudents } from "./nameStudents";
import { officeAddresses } from "./officeAddresses";
import { followLinks, type PersonLink } from "./personLink";
import type { Question, SettledByHand } from "./question";
import { askAboutAddresses } from "./questions/aboutAddresses";
import { askAboutClasses } from "./questions/aboutClasses";
import { askAboutStudents } from "./questions/aboutStudents";
import { askWhetherHere } from "./questions/whetherHere";
import { askAboutValues } from "./questions/aboutValues";
import { askAboutGuardians } from "./questions/aboutGuardians";
import { staffInSheets } from "./staffInSheets";
import { standingAddresses, type StandingAddresses } from "./standingAddresses";
import { Tellings } from "./tellings";
import type { RowRecord } from "../sheet/rowRecord";
import type { SourceRecords } from "./sourceRecords";
import { originIn } from "./originIn";
import { guardianFacts } from "./guardianFacts";
import { settleByHand } from "./settleByHand";
import { answersOfStrangers } from "./strangers";

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
 * disagree, `PRECEDENCE` decides; where it can't, it is a question, and the oldest source holds meanwhile.
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
  const put = (some: Iterable<Fact>): void => {
    for (const fact of some) {
      const key = factKey(fact);
      if (!facts.has(key)) facts.set(key, fact);
    }
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
  const strangers = answersOfStrangers(rows, students.ids, links);
  const told = new Tellings();
  const classes = new ClassTellings();
  const mentions: Mention[] = [];
  const firstRows = new Map<string, RowRecord>();
  for (const { source, reading, record, place } of rows) {
    const subject = students.ids.get(record);
    if (subject === undefined || strangers.all.has(record)) continue;
    const number = students.numberless.has(record) ? "" : record.number;
    const row = { subject, record, number, place, at: originIn(source, reading, record) };
    if (!firstRows.has(subject)) firstRows.set(subject, record);
    put(studentFacts(row, settings.studentAddress));
    tellStudent(told, row);
    put(classes.tell(subject, source, record, row.at));
    for (const guardian of record.guardians)
      mentions.push({ ...guardian, student: subject, source, reading, record });
  }
  put(told.settle());
  put(classes.cohorts());
  put(
    staffInSheets(
      rows.map(({ source, reading, record }) => ({
        record,
        at: originIn(source, reading, record),
      })),
      known,
    ),
  );
  const office = officeAddresses(mentions, firstRows, links);
  const clusters = followLinks(clusterGuardians(withoutOffice(mentions, office.set)), links);
  const guardians = nameGuardians(clusters, known);
  const standing = new Map<string, StandingAddresses>();
  for (const cluster of clusters) {
    const subject = guardians.get(cluster) ?? "";
    const addresses = standingAddresses(cluster);
    if (addresses.holds.length + addresses.disputed.length > 1) standing.set(subject, addresses);
    put(guardianFacts(subject, cluster, addresses, known));
  }
  const askedAbout = students.asked.flatMap(({ candidates }) => candidates.map(({ id }) => id));
  keepStanding(facts, sources, known, stand, new Set(askedAbout));
  const handled = settleByHand(facts, settled, classes.spare);
  const index = (): FactIndex => sharedIndex(handled);
  const questions = [
    ...askAboutStudents(students.asked, rows, handled, index),
    ...askWhetherHere(strangers.asked, rows),
    ...office.questions,
    ...askAboutGuardians(clusters, links, index),
    ...askAboutAddresses(standing, settled, index),
    ...askAboutValues(told.disputed(), settled, index),
    ...askAboutClasses(classes.byStudent, settled, index),
  ];
  return { facts: handled, questions, students: students.ids };
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
