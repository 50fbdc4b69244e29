import type { CohortValue, CohortKind } from "../facts/cohort";
import type { Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import { coachOf } from "./staffInSheets";
import type { RowRecord } from "../sheet/rowRecord";

/** Settles by majority what a cohort is called, where it is and who coaches it. */
export class CohortVotes {
  private readonly cohorts = new Map<
    string,
    { kind: CohortKind; names: Tally; sites: Tally; coaches: Tally; origin: Origin }
  >();

  /** Casts one row's vote. A row that names only this cohort tells most about its site and coach. */
  cast(
    key: string,
    kind: CohortKind,
    name: string,
    record: RowRecord,
    weight: number,
    origin: Origin,
  ): void {
    const cohort = this.cohorts.get(key) ?? {
      kind,
      names: new Map(),
      sites: new Map(),
      coaches: new Map(),
      origin,
    };
    this.cohorts.set(key, cohort);
    tally(cohort.names, name, 1);
    if (record.site !== "") tally(cohort.sites, record.site, weight);
    if (coachOf(record) !== "") tally(cohort.coaches, coachOf(record), weight);
  }

  count(): Fact[] {
    return [...this.cohorts].map(([subject, { kind, names, sites, coaches, origin }]) => {
      const value: CohortValue = {
        name: most(names),
        kind,
        site: most(sites),
        coach: most(coaches),
      };
      return { subject, kind: "cohort", ref: "", value, origin };
    });
  }
}

type Tally = Map<string, number>;

function tally(counts: Tally, value: string, weight: number): void {
  counts.set(value, (counts.get(value) ?? 0) + weight);
}

function most(counts: Tally): string {
  return [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? "";
}
