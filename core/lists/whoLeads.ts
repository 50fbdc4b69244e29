import { hasAccount } from "../facts/subjects";
import type { CohortValue } from "../facts/cohort";
import type { FactIndex, Person } from "../facts/factIndex";
import { nameKey } from "../identity/sameName";
import { splitName } from "../sheet/splitName";
import { fold } from "../text/fold";

/** How many coaches' names are kept in the form in which they are compared; a house has far fewer. */
const MOST_NAMES = 5000;
const NAME_KEYS = new Map<string, string>();

/** The name of a coach as a sheet writes it, made comparable with the names of people on the staff. */
function coachKey(name: string): string {
  let key = NAME_KEYS.get(name);
  if (key === undefined) {
    if (NAME_KEYS.size > MOST_NAMES) NAME_KEYS.clear();
    key = nameKey(splitName(name));
    NAME_KEYS.set(name, key);
  }
  return key;
}

/** Whether a class, team or committee names somebody on the staff as its coach: by name, or by an address where its sheet gives no more. */
export function isCoachOf(person: Person, cohort: Pick<CohortValue, "coach"> | undefined): boolean {
  const coach = cohort?.coach ?? "";
  if (person.role !== "staff" || coach === "") return false;
  // A dash where a name belongs names nobody, also not somebody on the staff without a name.
  const key = coachKey(coach);
  return (key !== "" && key === nameKey(person)) || person.addresses.has(coach);
}

/** How a list says who runs it: ids of people, or `coach`; and the key of its class. */
interface SaysWhoRuns {
  leads: string;
  helpers: string;
  cohort: string | undefined;
}

/** The people on the staff who run a list. All of them have an account. */
export interface Runners {
  leads: Person[];
  helpers: Person[];
}

/**
 * Returns the function that says who runs a list. It leads: whoever was named, or the coach of its class. A coach without an account
 * leads nothing. Where several of one name could be the coach, the one at the site of the class is; else none of them, for
 * a lead sees addresses.
 */
export function whoLeads(index: FactIndex): (list: SaysWhoRuns) => Runners {
  const staff = [...index.staff].filter(hasAccount).flatMap((id) => index.people.get(id) ?? []);
  const byId = new Map(staff.map((person) => [person.id, person]));
  const byCoach = new Map<string, Person[]>();
  for (const person of staff)
    for (const key of [nameKey(person), ...person.addresses].filter((one) => one !== ""))
      byCoach.set(key, [...(byCoach.get(key) ?? []), person]);

  const named = (ids: string): Person[] =>
    [...new Set(ids.split(" "))].flatMap((id) => byId.get(id) ?? []);
  const coachOf = (cohort: CohortValue | undefined): Person[] => {
    if (cohort === undefined || cohort.coach === "") return [];
    const found = byCoach.get(cohort.coach) ?? byCoach.get(coachKey(cohort.coach)) ?? [];
    if (found.length <= 1) return found;
    const atSite = found.filter(({ site }) => fold(site) === fold(cohort.site));
    return atSite.length === 1 ? atSite : [];
  };
  return ({ leads, helpers, cohort }) => {
    const leading = leads === "coach" ? coachOf(index.cohorts.get(cohort ?? "")) : named(leads);
    return { leads: leading, helpers: named(helpers).filter((one) => !leading.includes(one)) };
  };
}
