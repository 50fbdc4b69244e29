import { each, localTime, message, type Message } from "@amigo/language/message";
import { cohortKey, type Facts, keyOf as factKeyOf } from "../facts/fact";
import type { Origin } from "../facts/origin";
import { nameOf, type FactIndex } from "../facts/factIndex";
import { wholeName, type PersonName } from "../sheet/splitName";
import { fold } from "../text/fold";
import type { Cluster } from "./clusterGuardians";
import type { StandingAddresses } from "./standingAddresses";
import type { KnownStudent, NamedStudents } from "./nameStudents";
import { fitsGuardian, isSettled, type PersonLink, type PersonMark } from "./personLink";
import type { Telling } from "./precedence";
import type { Question, QuestionSide, SettledByHand, SettledFact } from "./question";
import { nameKey, sameName } from "./sameName";
import type { CohortKind } from "../facts/cohort";
import type { RowRecord } from "../sheet/rowRecord";

interface RowOf {
  source: string;
  reading: string;
  record: RowRecord;
}

/** What one source says of a student's classes or teams. */
export interface TellingOfClasses {
  subject: string;
  kind: CohortKind;
  source: string;
  origin: Origin;
  /** Names by their folded form. */
  names: Map<string, string>;
}

/** Whose row is this? One question for each row without a number that could be several students', or nearly one's. */
export function askAboutStudents(
  asked: NamedStudents["asked"],
  rows: readonly RowOf[],
  facts: Facts,
): Question[] {
  const places = new Map(rows.map((row) => [row.record, row]));
  const seen = new Set<string>();
  return asked.flatMap(({ record, candidates, why }): Question[] => {
    const row = places.get(record);
    const where: Origin | undefined =
      row === undefined
        ? undefined
        : {
            from: "row",
            source: row.source,
            reading: row.reading,
            sheet: record.sheet,
            row: record.row,
            meaning: "student.name",
            slot: 0,
          };
    const personMark =
      why === "number"
        ? { ...markOfRow(record), numbers: [fold(record.number)], strict: true }
        : markOfRow(record);
    const key = `${why === "number" ? `same number ${fold(record.number)}` : "same student"} ${personMark.names[0] ?? ""} | ${personMark.places.join(" ")} | ${candidates
      .map(({ id }) => id)
      .sort()
      .join(" ")}`;
    if (seen.has(key)) return [];
    seen.add(key);
    const name = wholeName(record.name);
    const known = wholeName(candidates[0]?.name ?? record.name);
    const link = (student: KnownStudent, says: PersonLink["says"]): PersonLink => ({
      says,
      left: why === "number" ? { ...markOfStudent(student), strict: true } : markOfStudent(student),
      right: personMark,
    });
    return [
      {
        key,
        kind: "same student",
        subject: "",
        about:
          why === "number"
            ? message("identity.numberOfTwo", { number: record.number, known, name })
            : candidates.length === 1
              ? message("identity.isTheStudent", { name, known })
              : message("identity.whichStudent", { name }),
        sides: [
          {
            title: name,
            lines: [
              classesIn([...record.classes, ...record.teams]),
              ...record.guardians.map((guardian) =>
                [wholeName(guardian.name), guardian.address ?? ""]
                  .filter((part) => part !== "")
                  .join(", "),
              ),
            ],
            where,
          },
          ...candidates.map((student): QuestionSide => ({
            title: `${wholeName(student.name)}${student.number === "" ? "" : `, ${student.number.toUpperCase()}`}`,
            lines: [classesIn([...student.places]), ...student.addresses].slice(0, 4),
            where: facts.get(factKeyOf(student.id, "student"))?.origin,
          })),
        ],
        choices: [
          ...candidates.map((student) => ({
            id: student.id,
            label:
              candidates.length === 1
                ? message("identity.oneStudent")
                : `${wholeName(student.name)}${student.number === "" ? "" : `, ${student.number.toUpperCase()}`}`,
            answer: { does: "link" as const, links: [link(student, "same")] },
          })),
          {
            id: "new",
            label: message("identity.somebodyElse"),
            answer: { does: "link", links: candidates.map((student) => link(student, "other")) },
          },
        ],
        meanwhile: message("identity.rowWaits"),
      },
    ];
  });
}

/** Is this a student here? Asked once for each student of whom only answers to a form tell. */
export function askWhetherHere(records: readonly RowRecord[], rows: readonly RowOf[]): Question[] {
  const places = new Map(rows.map((row) => [row.record, row]));
  const byStudent = new Map<string, RowRecord[]>();
  for (const record of records)
    push(byStudent, `${nameKey(record.name)} | ${record.classes.map(fold).join(" ")}`, record);
  return [...byStudent].flatMap(([key, student]): Question[] => {
    const [first] = student;
    if (first === undefined) return [];
    const mark = markOfRow(first);
    const name = wholeName(first.name);
    const say = (says: "here" | "gone"): PersonLink => ({ says, left: mark, right: mark });
    return [
      {
        key: `student here ${key}`,
        kind: "student here",
        subject: "",
        about: message("identity.isAStudentHere", { name }),
        sides: student.map((record): QuestionSide => {
          const row = places.get(record);
          return {
            title: name,
            lines: [
              classesIn(record.classes),
              ...record.guardians.map((guardian) =>
                [wholeName(guardian.name), guardian.address ?? ""]
                  .filter((part) => part !== "")
                  .join(", "),
              ),
              message("identity.answered", {
                when: localTime(record.answeredAs ?? record.answered),
              }),
            ],
            where:
              row === undefined
                ? undefined
                : {
                    from: "row",
                    source: row.source,
                    reading: row.reading,
                    sheet: record.sheet,
                    row: record.row,
                    meaning: "student.name",
                    slot: 0,
                  },
          };
        }),
        choices: [
          {
            id: "here",
            label: message("identity.aStudentHere"),
            answer: { does: "link", links: [say("here")] },
          },
          {
            id: "gone",
            label: message("identity.notAStudentHere"),
            answer: { does: "link", links: [say("gone")] },
          },
        ],
        meanwhile: message("identity.answerWaits"),
      },
    ];
  });
}

function markOfRow(record: RowRecord): PersonMark {
  return {
    role: "student",
    names: [nameKey(record.name)],
    numbers: [],
    students: [],
    addresses: [],
    places: [...record.classes, ...record.teams].map(fold),
  };
}

function markOfStudent(student: KnownStudent): PersonMark {
  return {
    role: "student",
    names: [nameKey(student.name)],
    numbers: student.number === "" ? [] : [student.number],
    students: [],
    addresses: [],
    places: [...student.places],
  };
}

/** Are these two guardians one person? Asked for two of nearly one name on one student, and for one without an address who has a namesake with one nearby. */
export function askAboutGuardians(
  clusters: readonly Cluster[],
  links: readonly PersonLink[],
  index: () => FactIndex,
): Question[] {
  const pairs: [Cluster, Cluster][] = [];
  const byStudent = new Map<string, Cluster[]>();
  const byName = new Map<string, Cluster[]>();
  for (const cluster of clusters) {
    for (const student of new Set(cluster.map((mention) => mention.student)))
      push(byStudent, student, cluster);
    const key = keyOf(cluster);
    if (key.includes(" ")) push(byName, key, cluster);
  }
  for (const here of byStudent.values()) {
    here.forEach((one, at) => {
      for (const other of here.slice(at + 1)) {
        const [left, right] = [nameIn(one), nameIn(other)];
        const apart = one.some((mention) =>
          other.some(
            (twin) => mention.reading === twin.reading && mention.student === twin.student,
          ),
        );
        if (
          !apart &&
          keyOf(one) !== "" &&
          keyOf(other) !== "" &&
          keyOf(one) !== keyOf(other) &&
          sameName(left, right)
        )
          pairs.push([one, other]);
      }
    });
  }
  for (const namesakes of byName.values()) {
    for (const lone of namesakes) {
      if (lone.some(({ address }) => address !== undefined)) continue;
      for (const twin of namesakes)
        if (twin.some(({ address }) => address !== undefined) && isNear(lone, twin, index))
          pairs.push([twin, lone]);
    }
  }
  const seen = new Set<string>();
  return pairs.flatMap(([one, other]): Question[] => {
    const [left, right] = [markOfCluster(one), markOfCluster(other)];
    const key = `same guardian ${[left, right]
      .map(({ names, students }) => `${names.join(" ")} of ${students.join(" ")}`)
      .sort()
      .join(" | ")}`;
    const fits =
      (cluster: Cluster) =>
      (mark: PersonMark): boolean =>
        cluster.some((mention) => fitsGuardian(mention, mark) > 0);
    if (seen.has(key) || isSettled(links, fits(one), fits(other))) return [];
    seen.add(key);
    const link = (says: PersonLink["says"]): PersonLink => ({ says, left, right });
    return [
      {
        key,
        kind: "same guardian",
        subject: "",
        about: message("identity.sameGuardian", {
          one: wholeName(nameIn(one)),
          students: childrenOf(one, index),
          other: wholeName(nameIn(other)),
          others: childrenOf(other, index),
        }),
        sides: [one, other].map((cluster) => sideOf(cluster, index)),
        choices: [
          {
            id: "same",
            label: message("identity.onePerson"),
            answer: { does: "link", links: [link("same")] },
          },
          {
            id: "other",
            label: message("identity.twoPeople"),
            answer: { does: "link", links: [link("other")] },
          },
        ],
        meanwhile: message("identity.takenForTwo"),
      },
    ];
  });
}

/** Namesakes are near where their students share a family name or a class. */
function isNear(one: Cluster, other: Cluster, index: () => FactIndex): boolean {
  const students = (cluster: Cluster) =>
    [...new Set(cluster.map(({ student }) => student))].flatMap(
      (id) => index().people.get(id) ?? [],
    );
  return students(one).some((student) =>
    students(other).some(
      (twin) =>
        twin.id !== student.id &&
        (fold(twin.family) === fold(student.family) ||
          [...twin.cohorts].some((cohort) => student.cohorts.has(cohort))),
    ),
  );
}

/** Which address is right? Asked where answers differ from child to child, and where two rosters differ. */
export function askAboutAddresses(
  standing: ReadonlyMap<string, StandingAddresses>,
  settled: readonly SettledByHand[],
  index: () => FactIndex,
): Question[] {
  return [...standing].flatMap(([subject, { holds, disputed }]): Question[] => {
    const mentions = [...holds, ...disputed];
    const addresses = [...new Set(mentions.flatMap(({ address }) => address ?? []))];
    if (addresses.length < 2) return [];
    const person = index().people.get(subject);
    const fact = (address: string) => ({ ref: address, value: "" as const });
    const settle = (chosen: readonly string[]): SettledFact => ({
      subject,
      kind: "address",
      facts: chosen.map(fact),
    });
    return question(
      {
        key: `which address ${subject} ${[...addresses].sort().join(" ")}`,
        kind: "which value",
        subject,
        about:
          disputed.length === 0
            ? message("identity.addressesByChild", {
                name: nameOf(person),
                answered: holds.some(({ record }) => record.answered !== ""),
              })
            : message("identity.addressesBySource", { name: nameOf(person) }),
        sides: mentions.map((mention) => ({
          title: mention.address ?? "",
          lines: [
            message("identity.forStudent", { name: nameOf(index().people.get(mention.student)) }),
            ...(mention.record.answered === ""
              ? []
              : [
                  message("identity.answered", {
                    when: localTime(mention.record.answeredAs ?? mention.record.answered),
                  }),
                ]),
          ],
          where: {
            from: "row",
            source: mention.source,
            reading: mention.reading,
            sheet: mention.record.sheet,
            row: mention.record.row,
            meaning: "guardian.address",
            slot: mention.slot,
          },
        })),
        choices: [
          ...addresses.map((address) => ({
            id: address,
            label: address,
            settle: settle([address]),
          })),
          {
            id: "all",
            label: message("identity.allOf", { count: addresses.length }),
            settle: settle(addresses),
          },
        ],
        meanwhile:
          disputed.length === 0
            ? message("identity.mailGoesTo", { addresses: each(addresses) })
            : message("identity.mailGoesToOlder", {
                addresses: each(holds.flatMap(({ address }) => address ?? [])),
              }),
      },
      settled,
    );
  });
}

/** Two rosters say different things of a student. */
export function askAboutValues(
  disputed: readonly {
    subject: string;
    kind: "name" | "level" | "site";
    told: readonly Telling<string | PersonName>[];
  }[],
  settled: readonly SettledByHand[],
  index: () => FactIndex,
): Question[] {
  const text = (value: string | PersonName): string =>
    typeof value === "string" ? value : wholeName(value);
  return disputed.flatMap(({ subject, kind, told }) =>
    question(
      {
        key: `which ${kind} ${subject} ${told
          .map(({ value }) => text(value))
          .sort()
          .join(" | ")}`,
        kind: "which value",
        subject,
        about: message("identity.valuesBySource", {
          kind,
          name: nameOf(index().people.get(subject)),
        }),
        sides: told.map(({ value, origin }) => ({ title: text(value), lines: [], where: origin })),
        choices: told.map(({ value }) => ({
          id: text(value),
          label: text(value),
          settle: { subject, kind, facts: [{ ref: "", value }] },
        })),
        meanwhile: message("identity.olderHolds", { value: text(told[0]?.value ?? "") }),
      },
      settled,
    ),
  );
}

/** Another source names a class that the first one does not. */
export function askAboutClasses(
  classes: ReadonlyMap<string, readonly TellingOfClasses[]>,
  settled: readonly SettledByHand[],
  index: () => FactIndex,
): Question[] {
  return [...classes.values()].flatMap(([first, ...others]) =>
    others.flatMap((other): Question[] => {
      if (first === undefined || first.kind !== "class") return [];
      const extra = [...other.names.keys()].filter((name) => !first.names.has(name));
      if (extra.length === 0) return [];
      const refs = (names: Iterable<string>) =>
        [...new Set(names)].map((name) => ({ ref: cohortKey("class", name), value: "" as const }));
      const settle = (names: Iterable<string>): SettledFact => ({
        subject: first.subject,
        kind: "enrolment",
        facts: refs(names),
      });
      return question(
        {
          key: `which classes ${first.subject} ${[...first.names.keys()].sort().join(", ")} | ${[...other.names.keys()].sort().join(", ")}`,
          kind: "which value",
          subject: first.subject,
          about: message("identity.classesBySource", {
            name: nameOf(index().people.get(first.subject)),
          }),
          sides: [first, other].map((telling) => ({
            title: each([...telling.names.values()]),
            lines: [],
            where: telling.origin,
          })),
          choices: [
            {
              id: "first",
              label: each([...first.names.values()]),
              settle: settle(first.names.keys()),
            },
            {
              id: "other",
              label: each([...other.names.values()]),
              settle: settle(other.names.keys()),
            },
            {
              id: "both",
              label: message("identity.allOf", { count: 2 }),
              settle: settle([...first.names.keys(), ...other.names.keys()]),
            },
          ],
          meanwhile: message("identity.olderClassesHold", {
            classes: each([...first.names.values()]),
            count: first.names.size,
          }),
        },
        settled,
      );
    }),
  );
}

interface ValueQuestion extends Omit<Question, "choices"> {
  choices: { id: string; label: Message | string; settle: SettledFact }[];
}

/** A question about a value, unless one of just these choices was made before. */
function question(
  { choices, ...rest }: ValueQuestion,
  settled: readonly SettledByHand[],
): Question[] {
  const isMade = settled.some((made) => made.key === rest.key);
  return isMade
    ? []
    : [
        {
          ...rest,
          choices: choices.map(({ settle, ...choice }) => ({
            ...choice,
            answer: { does: "settle", settled: settle },
          })),
        },
      ];
}

function push<Value>(groups: Map<string, Value[]>, key: string, value: Value): void {
  const group = groups.get(key);
  if (group === undefined) groups.set(key, [value]);
  else group.push(value);
}

function nameIn(cluster: Cluster): PersonName {
  return cluster.find(({ name }) => wholeName(name) !== "")?.name ?? { given: "", family: "" };
}

function keyOf(cluster: Cluster): string {
  return nameKey(nameIn(cluster));
}

function markOfCluster(cluster: Cluster): PersonMark {
  return {
    role: "guardian",
    names: [...new Set(cluster.map(({ name }) => nameKey(name)).filter((name) => name !== ""))],
    numbers: [],
    students: [...new Set(cluster.map(({ student }) => student))].sort(),
    addresses: [...new Set(cluster.flatMap(({ address }) => address ?? []))],
    places: [],
  };
}

function classesIn(names: readonly string[]): Message {
  return names.length === 0 ? message("identity.noClass") : each(names);
}

function childrenOf(cluster: Cluster, index: () => FactIndex): Message {
  return each([...new Set(cluster.map(({ student }) => nameOf(index().people.get(student))))]);
}

function sideOf(cluster: Cluster, index: () => FactIndex): QuestionSide {
  const addresses = [...new Set(cluster.flatMap(({ address }) => address ?? []))];
  const [first] = cluster;
  return {
    title: wholeName(nameIn(cluster)),
    lines: [
      addresses.length === 0 ? message("identity.noAddress") : each(addresses),
      message("identity.guardianOf", { students: childrenOf(cluster, index) }),
      ...(cluster.length > 1 ? [message("identity.onRows", { rows: cluster.length })] : []),
    ],
    where:
      first === undefined
        ? undefined
        : {
            from: "row",
            source: first.source,
            reading: first.reading,
            sheet: first.record.sheet,
            row: first.record.row,
            meaning: "guardian.name",
            slot: first.slot,
          },
  };
}
