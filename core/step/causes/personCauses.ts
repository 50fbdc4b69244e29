import { each, message } from "@amigo/language/message";
import type { Fact } from "../../facts/fact";
import { nameOf, type FactIndex, type Person } from "../../facts/factIndex";
import type { Cause, CauseKind } from "../cause";
import { addressKey, howMoved } from "./moved";
import { groupOf, stableKey } from "./called";

export function guardianCauses(
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

export function nameCause(
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

export function addressCause(
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
