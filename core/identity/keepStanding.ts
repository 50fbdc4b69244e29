import { placeKind } from "../facts/subjects";
import { cohortKey, factKey, type Fact, type Facts, keyOf } from "../facts/fact";
import type { FactIndex, Person } from "../facts/factIndex";
import { fold } from "../text/fold";
import type { SourceRecords } from "./sourceRecords";

/** From this share of the house's classes on, a sheet speaks for the whole house and not for single classes. */
const WHOLE_HOUSE = 0.5;

/** What kinds a later source replaces as one: whoever is in another class by now is not in the old one as well. */
const REPLACED_TOGETHER = new Set<Fact["kind"]>(["enrolment", "address"]);

/**
 * Takes along what stands of students for whom no whole source speaks. Absence means leaving only in a source that claims to be
 * whole; an answer to a form, or a sheet that only adds, takes nothing away from anybody by what it doesn't mention.
 *
 * @param facts   what the sources tell now; what is taken along is added to it
 * @param waiting students about whom a row is still asked: they stay as they are meanwhile
 */
export function keepStanding(
  facts: Map<string, Fact>,
  sources: readonly SourceRecords[],
  stand: FactIndex,
  standing: Facts,
  waiting: ReadonlySet<string>,
): void {
  if (
    sources.every(({ whole = true }) => whole) &&
    waiting.size === 0 &&
    !isCarriedOver(stand, standing, sources)
  )
    return;
  fillCohorts(facts, sources, standing);
  const speaks = spokenFor(sources, stand, standing);
  const kept = [...stand.people.values()].filter(
    (person) =>
      person.role === "student" &&
      (waiting.has(person.id) ? !facts.has(keyOf(person.id, "student")) : !speaks(person)),
  );
  if (kept.length === 0) return;
  const people = new Set(kept.map(({ id }) => id));
  const guardians = new Set(kept.flatMap(({ ties }) => [...ties.keys()]));
  const told = new Set<string>();
  for (const fact of facts.values()) if (REPLACED_TOGETHER.has(fact.kind)) told.add(groupOf(fact));
  const cohorts = new Set<string>();
  for (const [key, fact] of standing) {
    const of =
      fact.kind === "tie"
        ? people.has(fact.ref)
        : people.has(fact.subject) || guardians.has(fact.subject);
    if (!of) continue;
    if (REPLACED_TOGETHER.has(fact.kind) && told.has(groupOf(fact))) continue;
    if (!facts.has(key)) facts.set(key, fact);
    if (fact.kind === "enrolment") cohorts.add(fact.ref);
  }
  for (const cohort of cohorts) {
    const key = factKey({ subject: cohort, kind: "cohort", ref: "" });
    const fact = standing.get(key);
    if (fact !== undefined && !facts.has(key)) facts.set(key, fact);
  }
}

/** A class of which no whole source tells keeps site and coach, where what is told of it now leaves them out. */
function fillCohorts(
  facts: Map<string, Fact>,
  sources: readonly SourceRecords[],
  standing: Facts,
): void {
  const told = new Set(
    sources
      .filter(({ whole = true }) => whole)
      .flatMap(({ records }) =>
        records.flatMap(({ classes, teams }) => [
          ...classes.map((name) => cohortKey("class", fold(name))),
          ...teams.map((name) => cohortKey("team", fold(name))),
        ]),
      ),
  );
  for (const [key, fact] of facts) {
    const stood = standing.get(key);
    if (fact.kind !== "cohort" || stood?.kind !== "cohort" || told.has(fact.subject)) continue;
    const { name, site, coach } = stood.value;
    facts.set(key, {
      ...fact,
      value: {
        ...fact.value,
        name,
        site: fact.value.site === "" ? site : fact.value.site,
        coach: fact.value.coach === "" ? coach : fact.value.coach,
      },
    });
  }
}

function groupOf({ subject, kind, ref }: Fact): string {
  return `${subject}|${kind}|${kind === "enrolment" ? ref.slice(0, ref.indexOf(":")) : ""}`;
}

/** Whether anything stands that no source of this season has told. */
function isCarriedOver(
  stand: FactIndex,
  standing: Facts,
  sources: readonly SourceRecords[],
): boolean {
  const known = new Set(sources.map(({ source }) => source));
  for (const person of stand.people.values()) {
    if (person.role !== "student") continue;
    const origin = standing.get(keyOf(person.id, "student"))?.origin;
    if (origin !== undefined && (origin.from !== "row" || !known.has(origin.source))) return true;
  }
  return false;
}

/** Tells of a student whether a whole source speaks for them, so that being absent there means having left. */
function spokenFor(
  sources: readonly SourceRecords[],
  stand: FactIndex,
  standing: Facts,
): (person: Person) => boolean {
  const whole = new Set(sources.filter(({ whole: is = true }) => is).map(({ source }) => source));
  const origins = new Map<string, Set<string>>();
  for (const { subject, kind, origin } of standing.values()) {
    if (origin.from !== "row" || (kind !== "student" && kind !== "enrolment" && kind !== "name"))
      continue;
    const foundOrigin = origins.get(subject);
    if (foundOrigin === undefined) origins.set(subject, new Set([origin.source]));
    else foundOrigin.add(origin.source);
  }
  const rosters = sources
    .filter(({ source }) => whole.has(source))
    .map(({ records }) => ({
      classes: new Set(records.flatMap(({ classes }) => classes.map(fold))),
      sites: new Set(records.map(({ site }) => fold(site)).filter((site) => site !== "")),
    }))
    .filter(({ classes }) => classes.size > 0);
  const houseClasses = [...stand.cohorts].filter(([key]) => placeKind(key) === "class");
  const shares = rosters.map(({ classes, sites }) => {
    const around = houseClasses.filter(
      ([, { site }]) => site === "" || sites.size === 0 || sites.has(fold(site)),
    );
    const named = around.filter(([key]) => classes.has(key.slice("class:".length)));
    return around.length === 0 ? 1 : named.length / around.length;
  });
  return (person) => {
    const found = [...(origins.get(person.id) ?? [])];
    if (found.some((source) => whole.has(source))) return true;
    const sites = sitesOf(person, stand);
    return rosters.some(({ classes, sites: covered }, at) => {
      const here =
        covered.size === 0 || sites.size === 0 || [...sites].some((site) => covered.has(site));
      const inClass = [...person.cohorts].some((key) =>
        classes.has(key.slice(key.indexOf(":") + 1)),
      );
      return inClass || (here && (shares[at] ?? 0) >= WHOLE_HOUSE);
    });
  };
}

function sitesOf(person: Person, stand: FactIndex): Set<string> {
  const sites = [
    person.site,
    ...[...person.cohorts].map((key) => stand.cohorts.get(key)?.site ?? ""),
  ];
  return new Set(sites.map(fold).filter((site) => site !== ""));
}
