import { rowOfMention } from "../rowOfMention";
import { each, message, type Message } from "@amigo/language/message";
import { nameOf, type FactIndex } from "../../facts/factIndex";
import { wholeName, type PersonName } from "../../sheet/splitName";
import { fold } from "../../text/fold";
import type { Cluster } from "../clusterGuardians";
import { fitsGuardian, isSettled, type PersonLink, type PersonMark } from "../personLink";
import type { Question, QuestionSide } from "../question";
import { nameKey, sameName } from "../sameName";
import { push } from "./push";

/** Are these two guardians one person? Asked for two of nearly one name on one student, and for one without an address who has a namesake with one nearby. */
export function askAboutGuardians(
  clusters: readonly Cluster[],
  links: readonly PersonLink[],
  index: () => FactIndex,
): Question[] {
  const questions = new Map<string, Question>();
  for (const [one, other] of [...ofOneStudent(clusters), ...namesakesNearby(clusters, index)]) {
    const question = questionAbout(one, other, index);
    const isAnswered = isSettled(links, fits(one), fits(other));
    if (!isAnswered && !questions.has(question.key)) questions.set(question.key, question);
  }
  return [...questions.values()];
}

/** Pairs of guardians of one student who have nearly one name and stand in no row together. */
function ofOneStudent(clusters: readonly Cluster[]): [Cluster, Cluster][] {
  const byStudent = new Map<string, Cluster[]>();
  for (const cluster of clusters)
    for (const student of new Set(cluster.map((mention) => mention.student)))
      push(byStudent, student, cluster);
  return [...byStudent.values()].flatMap((here) =>
    here.flatMap((one, at) =>
      here
        .slice(at + 1)
        .filter((other) => !standTogether(one, other) && areNearlyNamed(one, other))
        .map((other): [Cluster, Cluster] => [one, other]),
    ),
  );
}

function standTogether(one: Cluster, other: Cluster): boolean {
  return one.some((mention) =>
    other.some((twin) => mention.reading === twin.reading && mention.student === twin.student),
  );
}

function areNearlyNamed(one: Cluster, other: Cluster): boolean {
  const [left, right] = [keyOf(one), keyOf(other)];
  return left !== "" && right !== "" && left !== right && sameName(nameIn(one), nameIn(other));
}

/** Pairs of one with an address and a namesake without one whose students are near. */
function namesakesNearby(
  clusters: readonly Cluster[],
  index: () => FactIndex,
): [Cluster, Cluster][] {
  const byName = new Map<string, Cluster[]>();
  for (const cluster of clusters) {
    const key = keyOf(cluster);
    if (key.includes(" ")) push(byName, key, cluster);
  }
  const hasAddress = (cluster: Cluster): boolean =>
    cluster.some(({ address }) => address !== undefined);
  return [...byName.values()].flatMap((namesakes) =>
    namesakes
      .filter((lone) => !hasAddress(lone))
      .flatMap((lone) =>
        namesakes
          .filter((twin) => hasAddress(twin) && isNear(lone, twin, index))
          .map((twin): [Cluster, Cluster] => [twin, lone]),
      ),
  );
}

function fits(cluster: Cluster): (mark: PersonMark) => boolean {
  return (mark) => cluster.some((mention) => fitsGuardian(mention, mark) > 0);
}

function questionAbout(one: Cluster, other: Cluster, index: () => FactIndex): Question {
  const [left, right] = [markOfCluster(one), markOfCluster(other)];
  const link = (says: PersonLink["says"]): PersonLink => ({ says, left, right });
  const who = [left, right]
    .map(({ names, students }) => `${names.join(" ")} of ${students.join(" ")}`)
    .sort();
  return {
    key: `same guardian ${who.join(" | ")}`,
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
  };
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
            row: rowOfMention(first).row,
            meaning: "guardian.name",
            slot: first.slot,
          },
  };
}
