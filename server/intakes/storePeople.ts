import { and, inArray } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { intakePerson } from "../db/schema/intakes";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";
import type { Wanted } from "./wantedIntake";

export async function storePeople(
  tx: Queries,
  intakeId: string,
  people: Wanted["people"],
): Promise<void> {
  const known =
    people.length === 0
      ? []
      : await tx
          .select({ id: account.id })
          .from(account)
          .where(
            and(
              inArray(
                account.id,
                people.map(({ account: id }) => id),
              ),
              accountInForce,
            ),
          );
  const there = new Set(known.map(({ id }) => id));
  if (people.some(({ account: id }) => !there.has(id)))
    throw new Refusal(422, "intake/people", t("intakes.oneOfThesePeopleHas"), "people");
  if (people.length > 0)
    await tx
      .insert(intakePerson)
      .values(people.map(({ account: accountId, role }) => ({ intakeId, accountId, role })))
      .onConflictDoNothing();
}
