import { each, message } from "@amigo/language/message";
import type { Fact, FactKind, Facts } from "../../facts/fact";
import { nameOf, type FactIndex, type Person } from "../../facts/factIndex";
import type { Cause } from "../cause";
import { fieldChange, changeKey } from "./fieldChange";
import { moveKey, howMoved } from "./moved";
import { cohortNames, groupOf, stableKey } from "./called";
import { factsOfGuardian } from "./guardianFacts";
import type { Ties } from "./tieCauses";
import { nameCause, addressCause } from "./personCauses";

/** What changed about a student, with the ties that began and ended. */
interface StudentChange {
  adds: Fact[];
  removes: Fact[];
  ties: Ties | undefined;
  was: FactIndex;
  is: FactIndex;
  /** All facts as they are now. */
  after: Facts;
}

/** Returns what happened to a student: they joined or left, or their class, name, address or details changed. */
export function studentCauses(person: Person, change: StudentChange): Cause[] {
  const { adds, removes, was, is } = change;
  const old = was.people.get(person.id);
  const now = is.people.get(person.id);
  if (old === undefined) return now === undefined ? [] : [joinedCause(now, change)];
  if (now === undefined) return [leftCause(old, change)];
  const group = groupOf(now, is);
  return [
    ...movedCause(now, change),
    ...nameCause(now, old, adds, removes, group),
    ...addressCause(now, adds, removes, group, []),
    ...detailCause(now, old, change),
  ];
}

function joinedCause(now: Person, { adds, ties, is, after }: StudentChange): Cause {
  const name = nameOf(now);
  const guardians = (ties?.added ?? []).map((tie) => tie.subject);
  const cohorts = cohortNames(now.cohorts, is);
  const values = { classes: cohorts.length, names: each(cohorts) };
  return {
    subject: now.id,
    title: name,
    key: `joined ${stableKey(now)}`,
    kind: "joined",
    group: cohorts[0] ?? "",
    detail: message("step.joinedWith", { ...values, guardians: guardians.length }),
    sentence: message("step.joined", { name, ...values }),
    adds: [
      ...adds,
      ...(ties?.added ?? []),
      ...guardians.flatMap((id) => factsOfGuardian(id, after)),
    ],
    removes: [],
  };
}

function leftCause(old: Person, { removes, ties, was }: StudentChange): Cause {
  const name = nameOf(old);
  return {
    subject: old.id,
    title: name,
    key: `left ${stableKey(old)}`,
    kind: "left",
    group: groupOf(old, was),
    detail: message("step.wasIn", {
      classes: old.cohorts.size,
      names: each(cohortNames(old.cohorts, was)),
    }),
    sentence: message("step.left", { name }),
    adds: [],
    removes: [...removes, ...(ties?.removed ?? [])],
  };
}

/** Returns the facts of some kinds among those that began and ended. */
function only(
  kinds: readonly FactKind[],
  { adds, removes }: Pick<StudentChange, "adds" | "removes">,
): { adds: Fact[]; removes: Fact[] } {
  const isOne = ({ kind }: Fact): boolean => kinds.includes(kind);
  return { adds: adds.filter(isOne), removes: removes.filter(isOne) };
}

function movedCause(now: Person, change: StudentChange): Cause[] {
  const moved = only(["enrolment"], change);
  if (moved.adds.length + moved.removes.length === 0) return [];
  const { was, is } = change;
  const name = nameOf(now);
  const namesIn = (facts: readonly Fact[], index: FactIndex): string[] =>
    cohortNames(
      facts.map(({ ref }) => ref),
      index,
    );
  const from = namesIn(moved.removes, was);
  const to = namesIn(moved.adds, is);
  const values = { name, from: each(from), to: each(to), how: howMoved(from, to) };
  return [
    {
      subject: now.id,
      title: name,
      key: `moved ${stableKey(now)} ${moveKey(from, to)}`,
      kind: "moved",
      group: groupOf(now, is),
      detail: message("step.moved", values),
      sentence: message("step.movedSentence", values),
      ...moved,
    },
  ];
}

/** Returns what changed of a student's number, level, site and further columns. */
function detailCause(now: Person, old: Person, change: StudentChange): Cause[] {
  const details = only(["number", "level", "site", "detail"], change);
  if (details.adds.length + details.removes.length === 0) return [];
  const name = nameOf(now);
  const changed = new Map(
    [...details.adds, ...details.removes].map((fact) => [`${fact.kind} ${fact.ref}`, fact]),
  );
  const what = [...changed.values()].map((fact) => ({
    field: fact.kind === "detail" ? fact.ref : fact.kind,
    before: detailOf(old, fact),
    after: detailOf(now, fact),
  }));
  const words = each(what.map(fieldChange), "comma");
  return [
    {
      subject: now.id,
      title: name,
      key: `detail ${stableKey(now)} ${what.map(changeKey).join(", ")}`,
      kind: "detail",
      group: groupOf(now, change.is),
      detail: words,
      sentence: message("step.about", { name, what: words }),
      ...details,
    },
  ];
}

function detailOf(person: Person, { kind, ref }: Fact): string {
  if (kind === "number" || kind === "level" || kind === "site") return person[kind];
  return person.details.get(ref) ?? "";
}
