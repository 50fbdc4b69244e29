import { each, message, type CoreTextId, type Message } from "@amigo/language/message";
import { factKey, sameValue, type Fact, type Facts } from "../facts/fact";
import { nameOf, type FactIndex, type Person } from "../facts/factIndex";
import { sharedIndex } from "../facts/indexFacts";
import { joined } from "../text/sentence";
import { CAUSE_KINDS, type Cause, type CauseKind } from "./cause";
import { listCauses } from "./listCauses";

const ALPHABET = new Intl.Collator("en");

/**
 * Compares the facts as they stood with the facts as the sources tell them now, and gathers every
 * difference under the cause that a person would name. Equal facts give no cause, whatever the order of rows.
 */
export function findCauses(before: Facts, after: Facts): Cause[] {
  const was = sharedIndex(before);
  const is = sharedIndex(after);
  const added = bySubject(difference(after, before));
  const removed = bySubject(difference(before, after));
  let causes: Cause[] = [];
  const subjects = [...new Set([...added.keys(), ...removed.keys()])].sort();
  const tiesOf = tiesByStudent(added, removed);

  for (const subject of subjects) {
    const adds = added.get(subject) ?? [];
    const removes = removed.get(subject) ?? [];
    const person = is.people.get(subject) ?? was.people.get(subject);
    if (person === undefined)
      causes.push(
        ...cohortCauses(subject, adds, removes, was, is),
        ...keptCauses(adds, removes),
        ...listCauses(subject, adds, removes, was, is),
      );
    else if (person.role === "staff") causes.push(...staffCauses(person, adds, removes, was, is));
    else if (person.role === "student")
      causes.push(...studentCauses(person, adds, removes, tiesOf.get(subject), was, is, after));
    else causes.push(...guardianCauses(person, adds, removes, was, is));
  }
  for (const [student, ties] of tiesOf) {
    if (was.people.has(student) && is.people.has(student))
      causes.push(...tieCauses(student, ties, was, is, after, before));
  }
  causes = causes.map(asCorrected);
  const order = new Map(CAUSE_KINDS.map((kind, index) => [kind, index]));
  return causes.sort(
    (a, b) =>
      (order.get(a.kind) ?? 0) - (order.get(b.kind) ?? 0) ||
      ALPHABET.compare(a.group, b.group) ||
      ALPHABET.compare(plainTitle(a), plainTitle(b)) ||
      (a.key < b.key ? -1 : 1),
  );
}

/** The name that a cause is about; House rules have none. */
function plainTitle({ title }: Cause): string {
  return typeof title === "string" ? title : "";
}

function difference(from: Facts, without: Facts): Fact[] {
  const found: Fact[] = [];
  for (const [key, fact] of from) {
    const other = without.get(key);
    if (other === undefined || !sameValue(other.value, fact.value)) found.push(fact);
  }
  return found;
}

function bySubject(facts: readonly Fact[]): Map<string, Fact[]> {
  const groups = new Map<string, Fact[]>();
  for (const fact of facts) {
    const group = groups.get(fact.subject);
    if (group === undefined) groups.set(fact.subject, [fact]);
    else group.push(fact);
  }
  return groups;
}

interface Ties {
  added: Fact[];
  removed: Fact[];
}

function tiesByStudent(
  added: Map<string, Fact[]>,
  removed: Map<string, Fact[]>,
): Map<string, Ties> {
  const ties = new Map<string, Ties>();
  const collect = (facts: Map<string, Fact[]>, side: keyof Ties): void => {
    for (const list of facts.values()) {
      for (const fact of list) {
        if (fact.kind !== "tie") continue;
        const entry = ties.get(fact.ref) ?? { added: [], removed: [] };
        entry[side].push(fact);
        ties.set(fact.ref, entry);
      }
    }
  };
  collect(added, "added");
  collect(removed, "removed");
  return ties;
}

function studentCauses(
  person: Person,
  adds: Fact[],
  removes: Fact[],
  ties: Ties | undefined,
  was: FactIndex,
  is: FactIndex,
  after: Facts,
): Cause[] {
  const old = was.people.get(person.id);
  const now = is.people.get(person.id);
  const name = nameOf(person);
  const base = { subject: person.id, title: name };
  if (old === undefined && now !== undefined) {
    const guardians = (ties?.added ?? []).map((tie) => tie.subject);
    const cohorts = cohortNames(now.cohorts, is);
    return [
      {
        ...base,
        key: `joined ${stableKey(now)}`,
        kind: "joined",
        group: cohorts[0] ?? "",
        detail: message("step.joinedWith", {
          classes: cohorts.length,
          names: each(cohorts),
          guardians: guardians.length,
        }),
        sentence: message("step.joined", { name, classes: cohorts.length, names: each(cohorts) }),
        adds: [
          ...adds,
          ...(ties?.added ?? []),
          ...guardians.flatMap((id) => factsOfGuardian(id, after)),
        ],
        removes: [],
      },
    ];
  }
  if (old !== undefined && now === undefined) {
    return [
      {
        ...base,
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
      },
    ];
  }
  if (old === undefined || now === undefined) return [];
  const causes: Cause[] = [];
  const take = (kinds: readonly Fact["kind"][], facts: Fact[]): Fact[] =>
    facts.filter((fact) => kinds.includes(fact.kind));
  const moved = { adds: take(["enrolment"], adds), removes: take(["enrolment"], removes) };
  if (moved.adds.length + moved.removes.length > 0) {
    const from = cohortNames(
      moved.removes.map((fact) => fact.ref),
      was,
    );
    const to = cohortNames(
      moved.adds.map((fact) => fact.ref),
      is,
    );
    const values = { name, from: each(from), to: each(to), how: howMoved(from, to) };
    causes.push({
      ...base,
      key: `moved ${stableKey(now)} ${moveKey(from, to)}`,
      kind: "moved",
      group: groupOf(now, is),
      detail: message("step.moved", values),
      sentence: message("step.movedSentence", values),
      ...moved,
    });
  }
  causes.push(...nameCause(now, old, adds, removes, groupOf(now, is)));
  causes.push(...addressCause(now, adds, removes, groupOf(now, is), []));
  const details = {
    adds: take(["number", "level", "site", "detail"], adds),
    removes: take(["number", "level", "site", "detail"], removes),
  };
  if (details.adds.length + details.removes.length > 0) {
    const what = [
      ...new Set(
        [...details.adds, ...details.removes].map(({ kind, ref }) =>
          kind === "detail" ? `detail ${ref}` : kind,
        ),
      ),
    ].map((kind) => {
      const field = kind as "number" | "level" | "site";
      const column = kind.startsWith("detail ") ? kind.slice("detail ".length) : undefined;
      return {
        field: column ?? field,
        before: (column === undefined ? old[field] : old.details.get(column)) ?? "",
        after: (column === undefined ? now[field] : now.details.get(column)) ?? "",
      };
    });
    causes.push({
      ...base,
      key: `detail ${stableKey(now)} ${what.map(changeKey).join(", ")}`,
      kind: "detail",
      group: groupOf(now, is),
      detail: each(what.map(fieldChange), "comma"),
      sentence: message("step.about", { name, what: each(what.map(fieldChange), "comma") }),
      ...details,
    });
  }
  return causes;
}

/** A part of the keys by which decisions are remembered, so it stays as it is. */
const STAFF_KEYS = {
  new: "is on the staff now",
  gone: "is no longer on the staff",
  changed: "is known otherwise on the staff",
} as const;

/** Somebody came to the staff, left it, or is reached or placed otherwise. */
function staffCauses(
  person: Person,
  adds: Fact[],
  removes: Fact[],
  was: FactIndex,
  is: FactIndex,
): Cause[] {
  if (adds.length + removes.length === 0) return [];
  const name = nameOf(person);
  const what = !was.people.has(person.id) ? "new" : !is.people.has(person.id) ? "gone" : "changed";
  return [
    {
      key: `staff ${person.id} ${STAFF_KEYS[what]} ${adds.map(({ ref }) => ref).join(" ")}`,
      kind: "staff",
      subject: person.id,
      title: name,
      detail: message("step.staff", { what }),
      sentence: message("step.staffSentence", { name, what }),
      group: "",
      adds,
      removes,
    },
  ];
}

function guardianCauses(
  person: Person,
  adds: Fact[],
  removes: Fact[],
  was: FactIndex,
  is: FactIndex,
): Cause[] {
  const old = was.people.get(person.id);
  const now = is.people.get(person.id);
  if (old === undefined || now === undefined) return [];
  const children = [...now.ties.keys()]
    .map((id) => is.people.get(id))
    .filter((child) => child !== undefined);
  const group = children[0] === undefined ? "" : groupOf(children[0], is);
  return [
    ...nameCause(now, old, adds, removes, group),
    ...addressCause(now, adds, removes, group, children.map(nameOf)),
  ];
}

function nameCause(
  now: Person,
  old: Person,
  adds: Fact[],
  removes: Fact[],
  group: string,
): Cause[] {
  const changed = {
    adds: adds.filter((fact) => fact.kind === "name"),
    removes: removes.filter((fact) => fact.kind === "name"),
  };
  if (changed.adds.length === 0) return [];
  const values = { before: nameOf(old), after: nameOf(now) };
  return [
    {
      key: `name ${stableKey(now)} ${values.before} → ${values.after}`,
      kind: "name",
      subject: now.id,
      title: nameOf(now),
      detail: message("step.change", values),
      sentence: message("step.isNowCalled", values),
      group,
      ...changed,
    },
  ];
}

function addressCause(
  now: Person,
  adds: Fact[],
  removes: Fact[],
  group: string,
  students: readonly string[],
): Cause[] {
  const changed = {
    adds: adds.filter((fact) => fact.kind === "address"),
    removes: removes.filter((fact) => fact.kind === "address"),
  };
  if (changed.adds.length + changed.removes.length === 0) return [];
  const from = changed.removes.map((fact) => fact.ref);
  const to = changed.adds.map((fact) => fact.ref);
  const values = { from: each(from), to: each(to), how: howMoved(from, to) };
  const kind: CauseKind =
    from.length === 0 && to.length === now.addresses.size
      ? "reachable"
      : now.addresses.size === 0
        ? "unreachable"
        : "address";
  return [
    {
      key: `address ${stableKey(now)} ${addressKey(from, to)}`,
      kind,
      subject: now.id,
      title: nameOf(now),
      detail: message("step.address", values),
      sentence: message("step.addressSentence", {
        name: nameOf(now),
        how: values.how,
        students: students.length,
        names: each(students),
      }),
      group,
      ...changed,
    },
  ];
}

function tieCauses(
  student: string,
  ties: Ties,
  was: FactIndex,
  is: FactIndex,
  after: Facts,
  before: Facts,
): Cause[] {
  const child = is.people.get(student);
  if (child === undefined) return [];
  const group = groupOf(child, is);
  const causes: Cause[] = [];
  const make = (
    kind: CauseKind,
    fact: Fact,
    index: FactIndex,
    facts: Pick<Cause, "adds" | "removes">,
    how: { detail: CoreTextId; sentence: CoreTextId; is?: string },
  ): void => {
    const name = nameOf(index.people.get(fact.subject));
    const values = { student: nameOf(child), ...(how.is === undefined ? {} : { is: how.is }) };
    causes.push({
      key: `${kind} ${stableKey(child)} ${fact.subject}`,
      kind,
      subject: fact.subject,
      title: name,
      detail: message(how.detail, values),
      sentence: message(how.sentence, { ...values, name }),
      group,
      ...facts,
    });
  };
  for (const fact of ties.added) {
    const old = before.get(factKey(fact));
    if (old !== undefined)
      make(
        "detail",
        fact,
        is,
        { adds: [fact], removes: [old] },
        {
          detail: "step.tie",
          sentence: "step.tieSentence",
          is: fact.kind === "tie" && fact.value !== "" ? fact.value.toLowerCase() : "guardian",
        },
      );
    else
      make(
        "guardian-added",
        fact,
        is,
        {
          adds: [
            fact,
            ...factsOfGuardian(fact.subject, after).filter(
              (guardian) => !before.has(factKey(guardian)),
            ),
          ],
          removes: [],
        },
        { detail: "step.guardianAdded", sentence: "step.guardianAddedSentence" },
      );
  }
  for (const fact of ties.removed)
    if (!after.has(factKey(fact)))
      make(
        "guardian-gone",
        fact,
        was,
        { adds: [], removes: [fact] },
        { detail: "step.guardianGone", sentence: "step.guardianGoneSentence" },
      );
  return causes;
}

function cohortCauses(
  subject: string,
  adds: Fact[],
  removes: Fact[],
  was: FactIndex,
  is: FactIndex,
): Cause[] {
  const value = is.cohorts.get(subject) ?? was.cohorts.get(subject);
  if (value === undefined) return [];
  const old = was.cohorts.get(subject);
  const now = is.cohorts.get(subject);
  const base = {
    kind: "cohort" as const,
    subject,
    title: value.name,
    group: value.name,
    adds,
    removes,
  };
  if (old === undefined)
    return [
      {
        ...base,
        key: `cohort new ${subject}`,
        detail: message("step.newCohort", { kind: value.kind, site: value.site }),
        sentence: message("step.newCohortSentence", { name: value.name, kind: value.kind }),
      },
    ];
  if (now === undefined)
    return [
      {
        ...base,
        key: `cohort gone ${subject}`,
        detail: message("step.cohortGone"),
        sentence: message("step.cohortGoneSentence", { name: value.name }),
      },
    ];
  const what = (["name", "site", "coach"] as const)
    .filter((field) => old[field] !== now[field])
    .map((field) => ({ field, before: old[field], after: now[field] }));
  return [
    {
      ...base,
      key: `cohort ${subject} ${what.map(changeKey).join(", ")}`,
      detail: each(what.map(fieldChange), "comma"),
      sentence: message("step.about", {
        name: value.name,
        what: each(what.map(fieldChange), "comma"),
      }),
    },
  ];
}

interface FieldChange {
  field: string;
  before: string;
  after: string;
}

/** A field of the sheets before and after. Those that Amigo knows have words of their own; others are titles of columns. */
function fieldChange({ field, before, after }: FieldChange): Message {
  return message("step.fieldChange", { field, before, after });
}

/** The same as a part of the keys by which decisions are remembered, which stays as it is in every language. */
function changeKey({ field, before, after }: FieldChange): string {
  return `${field} ${before || "none"} → ${after || "none"}`;
}

function moveKey(from: readonly string[], to: readonly string[]): string {
  if (from.length === 0) return `also in ${joined(to)} now`;
  return to.length === 0 ? `no longer in ${joined(from)}` : `${joined(from)} → ${joined(to)}`;
}

function addressKey(from: readonly string[], to: readonly string[]): string {
  if (from.length === 0) return `can be reached at ${joined(to)}`;
  return to.length === 0
    ? `can no longer be reached at ${joined(from)}`
    : `${joined(from)} → ${joined(to)}`;
}

function howMoved(
  from: readonly string[],
  to: readonly string[],
): "replaced" | "added" | "removed" {
  if (from.length === 0) return "added";
  return to.length === 0 ? "removed" : "replaced";
}

/** What was kept on or off a list until a day that is over. */
function keptCauses(adds: readonly Fact[], removes: readonly Fact[]): Cause[] {
  const one = (fact: Fact, ends: boolean): Cause[] => {
    if (fact.kind !== "kept") return [];
    const { side, lastDay, reason } = fact.value;
    const detail = message("step.kept", {
      side,
      until: lastDay === "" ? null : { day: lastDay },
      ends: !ends ? "no" : lastDay === "" ? "taken back" : "over",
    });
    return [
      {
        key: `kept ${fact.subject} ${fact.ref} ${ends ? "ends" : "begins"} ${lastDay}`,
        kind: ends ? "expired" : "corrected",
        subject: fact.subject,
        title: fact.ref,
        detail,
        sentence: message("step.keptSentence", {
          address: fact.ref,
          kept: detail,
          reason,
        }),
        group: "",
        adds: ends ? [] : [fact],
        removes: ends ? [fact] : [],
      },
    ];
  };
  const begun = new Set(adds.map((fact) => `${fact.subject} ${fact.ref}`));
  return [
    ...removes
      .filter((fact) => !begun.has(`${fact.subject} ${fact.ref}`))
      .flatMap((fact) => one(fact, true)),
    ...adds.flatMap((fact) => one(fact, false)),
  ];
}

/** A change that comes from a correction, or from somebody's word, is told as one. */
function asCorrected(cause: Cause): Cause {
  const changeable =
    cause.kind === "moved" ||
    cause.kind === "address" ||
    cause.kind === "reachable" ||
    cause.kind === "unreachable" ||
    cause.kind === "name" ||
    cause.kind === "detail";
  const byHand =
    cause.adds.length > 0 &&
    cause.adds.every(
      ({ origin }) =>
        origin.from === "hand" || (origin.from === "row" && origin.corrected !== undefined),
    );
  return changeable && byHand ? { ...cause, kind: "corrected" } : cause;
}

/** The facts of a guardian beside their ties. */
function factsOfGuardian(id: string, facts: Facts): Fact[] {
  const found: Fact[] = [];
  for (const kind of ["guardian", "name"] as const) {
    const fact = facts.get(factKey({ subject: id, kind, ref: "" }));
    if (fact !== undefined) found.push(fact);
  }
  return [...found, ...(addressFacts(facts).get(id) ?? [])];
}

const addressCache = new WeakMap<Facts, Map<string, Fact[]>>();

/** Address facts by person, gathered once for a set of facts. */
function addressFacts(facts: Facts): Map<string, Fact[]> {
  let byPerson = addressCache.get(facts);
  if (byPerson === undefined) {
    const addresses: Fact[] = [];
    for (const fact of facts.values()) if (fact.kind === "address") addresses.push(fact);
    byPerson = bySubject(addresses);
    addressCache.set(facts, byPerson);
  }
  return byPerson;
}

function cohortNames(keys: Iterable<string>, index: FactIndex): string[] {
  return [...keys].map((key) => index.cohorts.get(key)?.name ?? key.slice(key.indexOf(":") + 1));
}

function groupOf(person: Person, index: FactIndex): string {
  return cohortNames([...person.cohorts].slice(0, 1), index)[0] ?? "";
}

function stableKey(person: Person): string {
  return person.number === "" ? person.id : person.number;
}
