import { kindOf } from "../facts/kinds/allKinds";
import type { FactIndex, Person } from "../facts/factIndex";
import { isCoachOf } from "../lists/whoLeads";
import type { Cause } from "./cause";

/**
 * Returns the function that tells everybody whose lists a cause can change, as far as facts have been taken into the index: its people,
 * and everybody tied to them; with a class, whoever coaches it and whoever is in it, for they are at its site; with an address
 * that is always or never on a list, whoever has it. It looks at those whom the cause is about and never at everybody.
 */
export function whoIsTouched(index: FactIndex): {
  by(cause: Cause): Set<string>;
  /** Takes in what has become of some people. */
  renew(people: ReadonlySet<string>): void;
} {
  // Made when it's first needed: most rounds don't.
  let holders: Map<string, Set<string>> | undefined;

  const hold = (person: Person): void => {
    if (holders === undefined) return;
    for (const address of person.addresses) {
      const found = holders.get(address);
      if (found === undefined) holders.set(address, new Set([person.id]));
      else found.add(person.id);
    }
  };
  // Whoever once had an address is looked at once too often: that changes nothing.
  const everybody = (): void => {
    for (const person of index.people.values()) hold(person);
  };
  const onStaff = (): Person[] => [...index.staff].flatMap((id) => index.people.get(id) ?? []);
  const whoHas = (address: string): Iterable<string> => {
    if (holders === undefined) {
      holders = new Map();
      everybody();
    }
    return holders.get(address) ?? [];
  };

  return {
    by(cause) {
      const touched = new Set<string>();
      for (const fact of [...cause.adds, ...cause.removes]) {
        if (fact.kind === "cohort") {
          const before = index.cohorts.get(fact.subject);
          for (const person of onStaff())
            if (isCoachOf(person, before) || isCoachOf(person, fact.value)) touched.add(person.id);
          for (const id of index.enrolled.get(fact.subject) ?? []) touched.add(id);
        } else if (fact.kind === "kept") {
          for (const id of whoHas(fact.ref)) touched.add(id);
        } else if (kindOf(fact).about === "person") {
          touched.add(fact.subject);
          if (fact.kind === "tie") touched.add(fact.ref);
        }
      }
      for (const id of [...touched])
        for (const other of index.people.get(id)?.ties.keys() ?? []) touched.add(other);
      return touched;
    },
    renew(people) {
      if (holders === undefined) return;
      for (const id of people) {
        const person = index.people.get(id);
        if (person !== undefined) hold(person);
      }
    },
  };
}
