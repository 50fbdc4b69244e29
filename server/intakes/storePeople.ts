import { refused, type Refused } from "../refused";
import type { Queries } from "../db/connect";
import { t } from "../texts/t";
import type { Wanted } from "./wantedIntake";
import { findStaffAmong, storeIntakePeople } from "./intakeQueries";

export async function storePeople(
  tx: Queries,
  intakeId: string,
  people: Wanted["people"],
): Promise<Refused | undefined> {
  const known = people.length === 0 ? [] : await findStaffAmong(tx, people);
  const there = new Set(known.map(({ id }) => id));
  if (people.some(({ account: id }) => !there.has(id)))
    return refused(422, "intake/people", t("intakes.oneOfThesePeopleHas"), "people");
  if (people.length > 0) await storeIntakePeople(tx, people, intakeId);
}
