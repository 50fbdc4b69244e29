import type { Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";
import type { Wanted } from "./wantedIntake";
import { findStaffAmong, storeIntakePeople } from "./intakeQueries";

export async function storePeople(
  tx: Queries,
  intakeId: string,
  people: Wanted["people"],
): Promise<void> {
  const known = people.length === 0 ? [] : await findStaffAmong(tx, people);
  const there = new Set(known.map(({ id }) => id));
  if (people.some(({ account: id }) => !there.has(id)))
    throw new Refusal(422, "intake/people", t("intakes.oneOfThesePeopleHas"), "people");
  if (people.length > 0) await storeIntakePeople(tx, people, intakeId);
}
